export { Upkeep as default } from '@/screens/places';
