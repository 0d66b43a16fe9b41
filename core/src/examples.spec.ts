import { readdirSync, readFileSync } from 'node:fs';

interface Example {
  readonly file: string;
  readonly call: string;
  readonly gives: string;
}

const sources = new URL('../src/', import.meta.url);
const examples: readonly Example[] = readdirSync(sources, { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('.ts') && !file.endsWith('.spec.ts'))
  .flatMap((file) => {
    const text = readFileSync(new URL(file, sources), 'utf8');
    const found = text.matchAll(/^ \* @example (?<call>.+?)(?: \/\/ (?<gives>.+))?$/gmu);
    return [...found].map(({ groups }) => ({
      file,
      call: groups?.['call'] ?? '',
      gives: groups?.['gives'] ?? '',
    }));
  });

/** Evaluates with what the example's own file exports in sight. */
async function valueOf(file: string, expression: string): Promise<unknown> {
  const exported = (await import(new URL(file.replace(/\.ts$/u, '.js'), import.meta.url).href)) as object;
  const run = new Function(...Object.keys(exported), `return (${expression});`) as (
    ...all: unknown[]
  ) => unknown;
  return run(...(Object.values(exported) as unknown[]));
}

describe('examples in doc comments', () => {
  it('are there', () => {
    expect(examples.length).toBeGreaterThan(10);
  });

  for (const { file, call, gives } of examples)
    it(`of ${file}: ${call}`, async () => {
      expect(gives).withContext('what it gives, behind //').not.toBe('');
      const came = await valueOf(file, call);
      const isResult = typeof came === 'object' && came !== null && 'ok' in came && 'value' in came;
      expect(isResult ? (came as { value: unknown }).value : came).toEqual(await valueOf(file, gives));
    });
});
