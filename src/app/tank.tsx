export { Tank as default } from '@/screens/places';
