export { SwapPage as default } from '@/screens/places';
