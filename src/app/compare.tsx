export { Compare as default } from '@/screens/compare/Compare';
