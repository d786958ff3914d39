export { Plates as default } from '@/screens/plates/Plates';
