export { Load as default } from '@/screens/places';
