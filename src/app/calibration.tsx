export { CalibrationPage as default } from '@/screens/places';
