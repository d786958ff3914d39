export { Rescue as default } from '@/screens/rescue/Rescue';
