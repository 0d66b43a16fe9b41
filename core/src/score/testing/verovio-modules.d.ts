declare module 'verovio/wasm' {
  const createVerovioModule: () => Promise<unknown>;
  export default createVerovioModule;
}
declare module 'verovio/esm' {
  export const LOG_WARNING: number;
  export function enableLog(level: number, module: unknown): void;
  export function enableLogToBuffer(isOn: boolean, module: unknown): void;
  export class VerovioToolkit {
    constructor(module: unknown);
    resetOptions(): void;
    setOptions(options: Record<string, unknown>): void;
    loadData(data: string): boolean;
    renderToSVG(page: number): string;
    getMEI(): string;
    getLog(): string;
    renderToTimemap(options?: Record<string, unknown>): Record<string, unknown>[];
  }
}
