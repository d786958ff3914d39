export { Mix as default } from '@/screens/places';
