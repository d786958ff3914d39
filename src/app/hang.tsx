export { HangPage as default } from '@/screens/places';
