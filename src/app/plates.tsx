export { Plates as default } from '@/screens/places';
