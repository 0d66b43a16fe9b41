import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('../', import.meta.url));

/** The real server as a process of its own, so that a test can stop and start it. */
export class RunningServer {
  private process: ChildProcess | null = null;
  /** Tests run two at a time: each worker has a server of its own. */
  readonly port = 4380 + Number(process.env['TEST_PARALLEL_INDEX'] ?? 0);
  readonly url = `http://127.0.0.1:${this.port}`;

  /** Starts it and waits until it answers. */
  async start(): Promise<void> {
    const env = {
      ...process.env,
      PORT: String(this.port),
      SESSION_SECRET: 'a secret for tests only, long enough to be one',
      SIGN_UPS_AN_HOUR: '1000',
      WEB_FOLDER: `${root}web/dist/browser`,
    };
    this.process = spawn(process.execPath, [`${root}server/dist/main.js`], {
      env,
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    // On a busy machine the first start brings up a whole schema beside another server that waits for the same.
    for (let tries = 0; tries < 300; tries += 1) {
      if (await this.answers()) return;
      await new Promise((done) => setTimeout(done, 200));
    }
    await this.stop();
    throw new Error('The server did not start.');
  }

  /** Stops it and waits until it is gone. */
  async stop(): Promise<void> {
    const running = this.process;
    if (!running || running.exitCode !== null) return;
    const gone = once(running, 'exit');
    running.kill('SIGTERM');
    const late = setTimeout(() => running.kill('SIGKILL'), 5000);
    await gone;
    clearTimeout(late);
  }

  private async answers(): Promise<boolean> {
    try {
      return (await fetch(`${this.url}/health`)).ok;
    } catch {
      return false;
    }
  }
}
