export { Log as default } from '@/screens/places';
