export { Lamps as default } from '@/screens/places';
