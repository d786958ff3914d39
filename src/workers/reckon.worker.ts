import { expose } from 'comlink';

import { service } from './service';

expose(service);
