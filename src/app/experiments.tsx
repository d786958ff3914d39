export { Experiments as default } from '@/screens/places';
