export { FitPage as default } from '@/screens/places';
