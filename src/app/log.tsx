export { Log as default } from '@/screens/log/Log';
