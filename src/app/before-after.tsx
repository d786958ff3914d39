export { BeforeAfterPage as default } from '@/screens/readings/BeforeAfter';
