export { Which as default } from '@/screens/places';
