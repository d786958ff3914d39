export { Mix as default } from '@/screens/mix/Mix';
