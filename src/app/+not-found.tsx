export { NotFound as default } from '@/screens/shell/NotFound';
