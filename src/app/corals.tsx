export { Corals as default } from '@/screens/corals/Corals';
