export { Load as default } from '@/screens/lampside/Load';
