export { Given as default } from '@/screens/places';
