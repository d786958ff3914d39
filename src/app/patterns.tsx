export { Patterns as default } from '@/screens/places';
