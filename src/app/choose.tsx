export { ChoosePage as default } from '@/screens/places';
