export { FitPage as default } from '@/screens/day/Fit';
