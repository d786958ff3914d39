export { Start as default } from '@/screens/sheets';
