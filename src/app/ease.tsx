export { Ease as default } from '@/screens/ease/Ease';
