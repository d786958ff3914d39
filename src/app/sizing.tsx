export { Sizing as default } from '@/screens/algae/Sizing';
