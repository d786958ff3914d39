export { Tank as default } from '@/screens/tank/Tank';
