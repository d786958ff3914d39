export { Sizing as default } from '@/screens/places';
