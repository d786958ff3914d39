export { Day as default } from '@/screens/day/Day';
