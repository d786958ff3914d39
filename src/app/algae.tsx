export { Algae as default } from '@/screens/places';
