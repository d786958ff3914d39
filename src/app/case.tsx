export { Case as default } from '@/screens/places';
