export { LampSheet as default } from '@/screens/places';
