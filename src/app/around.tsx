export { Around as default } from '@/screens/day/Around';
