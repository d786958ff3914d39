export { Around as default } from '@/screens/places';
