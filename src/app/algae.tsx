export { Algae as default } from '@/screens/algae/Algae';
