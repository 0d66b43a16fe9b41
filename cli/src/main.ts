import { runAnyCommand } from './run-command.js';

const outcome = await runAnyCommand(process.argv.slice(2), process.env['INIT_CWD'] ?? process.cwd());
if (outcome.exitCode === 0) process.stdout.write(`${outcome.text}\n`);
else process.stderr.write(`${outcome.text}\n`);
process.exitCode = outcome.exitCode;
