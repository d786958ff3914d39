import { readFileSync } from 'node:fs';

import { errorLine, reckon } from './verbs';

const [verb = ''] = process.argv.slice(2);
const answer = reckon(verb, verb === '' ? '' : readFileSync(0, 'utf8'));
if (answer.ok) process.stdout.write(`${JSON.stringify(answer.value)}\n`);
else {
  process.stderr.write(`${errorLine(answer.error)}\n`);
  process.exitCode = 2;
}
