export { Prove as default } from '@/screens/places';
