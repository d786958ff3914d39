export { Upkeep as default } from '@/screens/upkeep/Upkeep';
