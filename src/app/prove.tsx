export { Prove as default } from '@/screens/lampside/Prove';
