import { ExternalError } from '@vivid-cue/core/base';

/**
 * What the server is told from outside.
 * Shape:  `demo` null outside demo mode
 * Source: docs/architecture.md
 */
export interface Config {
  readonly databaseUrl: string;
  readonly host: string;
  readonly port: number;
  readonly sessionSecret: string;
  readonly isBehindTls: boolean;
  readonly webFolder: string | null;
  readonly demo: { readonly email: string; readonly password: string } | null;
}

/**
 * Reads the configuration from environment variables.
 * Errors: ExternalError naming the variable that is missing
 * Source: docs/architecture.md
 */
export function readConfig(env: Readonly<Record<string, string | undefined>>): Config {
  const need = (name: string): string => {
    const value = env[name];
    if (value === undefined || value === '')
      throw new ExternalError(`Set ${name}; docs/architecture.md says how.`);
    return value;
  };
  const demoEmail = env['DEMO_EMAIL'];
  const demoPassword = env['DEMO_PASSWORD'];
  return {
    databaseUrl: need('DATABASE_URL'),
    host: env['HOST'] ?? '127.0.0.1',
    port: Number(env['PORT'] ?? '4280'),
    sessionSecret: need('SESSION_SECRET'),
    isBehindTls: env['BEHIND_TLS'] === 'yes',
    webFolder: env['WEB_FOLDER'] ?? null,
    demo:
      demoEmail !== undefined && demoPassword !== undefined
        ? { email: demoEmail, password: demoPassword }
        : null,
  };
}
