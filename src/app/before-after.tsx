export { BeforeAfterPage as default } from '@/screens/places';
