export { Today as default } from '@/screens/places';
