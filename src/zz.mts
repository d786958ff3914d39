import { createApp } from '../server/app';
createApp('/tmp/dist-dbg').listen(4199, '127.0.0.1');
