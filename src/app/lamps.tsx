export { Lamps as default } from '@/screens/lamps/Lamps';
