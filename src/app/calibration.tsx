export { CalibrationPage as default } from '@/screens/readings/Calibration';
