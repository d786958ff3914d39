export { Hours as default } from '@/screens/places';
