import { part } from '@/ui/part';

export default part(async () => (await import('@/screens/day/Day')).Day);
