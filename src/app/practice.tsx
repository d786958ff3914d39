export { Practice as default } from '@/screens/places';
