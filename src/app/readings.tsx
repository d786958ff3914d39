export { Readings as default } from '@/screens/readings/Readings';
