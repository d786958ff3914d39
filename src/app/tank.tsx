import { part } from '@/ui/part';

export default part(async () => (await import('@/screens/tank/Tank')).Tank);
