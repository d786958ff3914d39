export { Design as default } from '@/screens/design/Design';
