export { Design as default } from '@/screens/places';
