import { readFileSync } from 'node:fs';

import { errorLine, InputError, reckon } from './verbs';

try {
  const [verb = ''] = process.argv.slice(2);
  const text = verb === '' ? '' : readFileSync(0, 'utf8');
  process.stdout.write(`${JSON.stringify(reckon(verb, text))}\n`);
} catch (error) {
  if (!(error instanceof InputError)) throw error;
  process.stderr.write(`${errorLine(error)}\n`);
  process.exitCode = 2;
}
