export { Start as default } from '@/screens/start/Start';
