export { CarryPage as default } from '@/screens/day/Carry';
