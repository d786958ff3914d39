export { PlacePage as default } from '@/screens/places';
