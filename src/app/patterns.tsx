export { Patterns as default } from '@/screens/day/Patterns';
