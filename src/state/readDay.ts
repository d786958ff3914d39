export { type DayFile, readDay } from '@/store/dayFile';
