// npm run dev: Expo's development server with fast reload, without network.
import { spawn } from 'node:child_process';
import { bin, ensurePackages, root } from './lib.mjs';

await ensurePackages();
const env = { ...process.env, EXPO_OFFLINE: '1', EXPO_NO_TELEMETRY: '1' };
delete env.CI;
const child = spawn(bin('expo'), ['start', '--web', '--port', process.env.PORT ?? '8361'], {
  cwd: root,
  env,
  stdio: 'inherit',
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
child.on('close', (code) => process.exit(code ?? 0));
