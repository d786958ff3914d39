export { Today as default } from '@/screens/today/Today';
