export { Ease as default } from '@/screens/places';
