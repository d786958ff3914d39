export { LampSheet as default } from '@/screens/sheet/LampSheet';
