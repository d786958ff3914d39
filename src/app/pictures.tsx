export { Pictures as default } from '@/screens/places';
