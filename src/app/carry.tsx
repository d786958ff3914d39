export { CarryPage as default } from '@/screens/places';
