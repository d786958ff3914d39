export { BenchPage as default } from '@/screens/lampside/BenchPage';
