export { Which as default } from '@/screens/algae/Which';
