import { Today } from '@/screens/today/Today';
import { part } from '@/ui/part';

// comes with the page, and is drawn a little at a time once what stands around it is there
export default part(async () => Today);
