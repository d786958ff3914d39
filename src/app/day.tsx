export { Day as default } from '@/screens/places';
