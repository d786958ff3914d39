export { Case as default } from '@/screens/case/Case';
