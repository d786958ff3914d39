/**
 * Changes single operators and constants of the code, one at a time, and says which changes no test notices. Run by hand:
 *
 *   npm run mutate -- --count 60 --seed 1 --in src/core/case --jobs 2
 *
 * The work tree is not touched: mutants live in copies of it. A mutant counts as caught when a test that depends on its file fails
 * or hangs. What survives is either a missing test or a change that changes nothing; it is printed with its place.
 */
import { spawn } from 'node:child_process';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const arg = (name: string, otherwise: string): string => {
  const at = process.argv.indexOf(`--${name}`);
  return at < 0 ? otherwise : process.argv[at + 1]!;
};
const ROOMS = ['core', 'state', 'store', 'heads'];
const count = Number(arg('count', '60'));
const seed = Number(arg('seed', '1'));
const jobs = Number(arg('jobs', '2'));
const only = arg('in', '');
/** All tests of a project take a quarter of this; what takes longer hangs. */
const PATIENCE_MS = 600_000;

interface Mutant {
  file: string;
  line: number;
  from: number;
  to: number;
  was: string;
  is: string;
}

const SWAPS: Partial<Record<ts.SyntaxKind, string>> = {
  [ts.SyntaxKind.PlusToken]: '-',
  [ts.SyntaxKind.MinusToken]: '+',
  [ts.SyntaxKind.AsteriskToken]: '/',
  [ts.SyntaxKind.SlashToken]: '*',
  [ts.SyntaxKind.LessThanToken]: '<=',
  [ts.SyntaxKind.LessThanEqualsToken]: '<',
  [ts.SyntaxKind.GreaterThanToken]: '>=',
  [ts.SyntaxKind.GreaterThanEqualsToken]: '>',
  [ts.SyntaxKind.EqualsEqualsEqualsToken]: '!==',
  [ts.SyntaxKind.ExclamationEqualsEqualsToken]: '===',
  [ts.SyntaxKind.AmpersandAmpersandToken]: '||',
  [ts.SyntaxKind.BarBarToken]: '&&',
};
const CALLS: Record<string, string> = {
  min: 'max',
  max: 'min',
  some: 'every',
  every: 'some',
  floor: 'ceil',
  ceil: 'floor',
};

/** Every change of one file that could be made. */
function mutantsOf(file: string): Mutant[] {
  const text = readFileSync(join(root, file), 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const out: Mutant[] = [];
  const add = (node: ts.Node, is: string) => {
    const from = node.getStart(source);
    const to = node.getEnd();
    const line = source.getLineAndCharacterOfPosition(from).line + 1;
    out.push({ file, line, from, to, was: text.slice(from, to), is });
  };
  const visit = (node: ts.Node): void => {
    // types, imports and words are no behaviour that a number or operator makes
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node) || ts.isInterfaceDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const swap = SWAPS[node.operatorToken.kind];
      const words = ts.isStringLiteralLike(node.left) || ts.isStringLiteralLike(node.right);
      if (swap && !(words && swap === '-')) add(node.operatorToken, swap);
    }
    if (ts.isNumericLiteral(node)) {
      const value = Number(node.text.replaceAll('_', ''));
      add(node, String(Number.isInteger(value) ? value + 1 : value * 1.25));
    }
    if (node.kind === ts.SyntaxKind.TrueKeyword) add(node, 'false');
    if (node.kind === ts.SyntaxKind.FalseKeyword) add(node, 'true');
    if (ts.isPropertyAccessExpression(node) && CALLS[node.name.text] && ts.isCallExpression(node.parent))
      add(node.name, CALLS[node.name.text]!);
    if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
      add(node, node.operand.getText(source));
    ts.forEachChild(node, visit);
  };
  visit(source);
  return out;
}

/** The same seed draws the same mutants of the same code. */
function drawn(all: readonly Mutant[]): Mutant[] {
  let state = seed * 2_654_435_761;
  const random = () => {
    state = (Math.imul(state ^ (state >>> 15), 2_246_822_519) + 0x9e3779b9) | 0;
    return ((state ^ (state >>> 13)) >>> 0) / 2 ** 32;
  };
  const left = [...all];
  return Array.from(
    { length: Math.min(count, left.length) },
    () => left.splice(Math.floor(random() * left.length), 1)[0]!,
  );
}

/** True when the tests of a project that depend on a file pass. */
function pass(dir: string, project: 'node' | 'ui', args: string[]): Promise<boolean> {
  return new Promise((resolve) => {
    const child = spawn(
      process.execPath,
      ['node_modules/jest/bin/jest.js', '--selectProjects', project, '--bail', '--silent', '-i', ...args],
      { cwd: dir, stdio: 'ignore' },
    );
    const timer = setTimeout(() => child.kill('SIGKILL'), PATIENCE_MS);
    child.on('close', (code) => {
      clearTimeout(timer);
      resolve(code === 0);
    });
  });
}

/** Tests that import a file by its name. */
function namedBy(dir: string, file: string): string[] {
  const name = basename(file, '.ts');
  return ROOMS.flatMap((room) =>
    readdirSync(join(dir, 'src', room), { recursive: true, encoding: 'utf8' })
      .map((f) => `src/${room}/${f}`)
      .filter((f) => f.endsWith('.test.ts') && readFileSync(join(dir, f), 'utf8').includes(`/${name}'`)),
  );
}

async function survives(dir: string, m: Mutant): Promise<boolean> {
  const path = join(dir, m.file);
  const text = readFileSync(path, 'utf8');
  writeFileSync(path, text.slice(0, m.from) + m.is + text.slice(m.to));
  try {
    // tests that name the file are quick and mostly enough
    const near = namedBy(dir, m.file);
    if (near.length > 0 && !(await pass(dir, 'node', ['--runTestsByPath', ...near]))) return false;
    const related = ['--passWithNoTests', '--findRelatedTests', m.file];
    return (await pass(dir, 'node', related)) && (await pass(dir, 'ui', related));
  } finally {
    writeFileSync(path, text);
  }
}

const files = ROOMS.flatMap((room) =>
  readdirSync(join(root, 'src', room), { recursive: true, encoding: 'utf8' }).map((f) => `src/${room}/${f}`),
)
  .filter((f) => f.endsWith('.ts'))
  .filter((f) => !/\.test\.ts$|\.web\.ts$|core\/library\/lamps|core\/spectrum\/observer/.test(f))
  .filter((f) => f.startsWith(only))
  .sort();
const mutants = drawn(files.flatMap(mutantsOf));
const dirs = Array.from({ length: jobs }, () => {
  const dir = mkdtempSync(join(tmpdir(), 'mutants-'));
  for (const part of [
    'src',
    'cli',
    'server',
    'bench',
    'jest.config.js',
    'jest.setup.js',
    'package.json',
    'tsconfig.json',
  ])
    cpSync(join(root, part), join(dir, part), { recursive: true });
  symlinkSync(join(root, 'node_modules'), join(dir, 'node_modules'));
  return dir;
});
const queue = [...mutants];
let caught = 0;
const survivors: Mutant[] = [];
await Promise.all(
  dirs.map(async (dir) => {
    for (let m = queue.shift(); m; m = queue.shift()) {
      if (await survives(dir, m)) {
        survivors.push(m);
        console.log(`survives  ${m.file}:${m.line}  ${m.was} → ${m.is}`);
      } else caught += 1;
      if ((caught + survivors.length) % 10 === 0)
        console.error(`${caught + survivors.length} of ${mutants.length}`);
    }
  }),
);
dirs.forEach((dir) => rmSync(dir, { recursive: true, force: true }));
const byRoom = new Map<string, number>();
for (const s of survivors) {
  const room = relative('src', dirname(s.file)) || basename(s.file);
  byRoom.set(room, (byRoom.get(room) ?? 0) + 1);
}
console.log([...byRoom].map(([room, n]) => `${room} ${n}`).join(', '));
console.log(
  `${caught} of ${mutants.length} caught, ${Math.round((100 * caught) / Math.max(1, mutants.length))} %`,
);
