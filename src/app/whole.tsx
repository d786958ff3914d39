export { WholePage as default } from '@/screens/places';
