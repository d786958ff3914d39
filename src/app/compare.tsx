export { Compare as default } from '@/screens/places';
