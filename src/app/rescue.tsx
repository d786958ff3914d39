export { Rescue as default } from '@/screens/places';
