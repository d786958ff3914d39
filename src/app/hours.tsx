export { Hours as default } from '@/screens/hours/Hours';
