export { Corals as default } from '@/screens/places';
