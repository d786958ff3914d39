export { Schools as default } from '@/screens/places';
