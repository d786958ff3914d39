export { BenchPage as default } from '@/screens/places';
