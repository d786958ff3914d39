export { Readings as default } from '@/screens/places';
