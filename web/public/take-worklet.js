// Takes the sound of a microphone in blocks, on the thread of the sound itself, and hands them to a worker of their own, so
// that nothing the page does can make it lose one. Only for browsers that do not hand a worker the track itself.
const BLOCK = 4096;

class TakeWorklet extends AudioWorkletProcessor {
  constructor() {
    super();
    this.out = null;
    this.isOver = false;
    this.next = null;
    this.begin();
    this.port.onmessage = ({ data }) => this.told(data);
  }

  begin() {
    this.block = new Float32Array(BLOCK);
    this.at = 0;
    this.skipped = 0;
  }

  told({ out, command }) {
    if (out) this.out = out;
    if (command === 'record') this.begin();
    if (command === 'stop') this.send(true);
    if (command === 'close') this.isOver = true;
  }

  process([[channel] = []]) {
    const frames = channel?.length ?? 128;
    // What the sound's own clock skipped is silence in the take, so that its time stays right; it is counted.
    const skipped = this.next === null ? 0 : currentFrame - this.next;
    this.next = currentFrame + frames;
    if (skipped > 0) {
      this.fill(null, skipped);
      this.skipped += skipped;
    }
    this.fill(channel ?? null, frames);
    return !this.isOver;
  }

  fill(channel, frames) {
    for (let n = 0; n < frames; n += 1) {
      this.block[this.at] = channel === null ? 0 : channel[n];
      this.at += 1;
      if (this.at === BLOCK) this.send(false);
    }
  }

  send(isLast) {
    const samples = this.block.slice(0, this.at);
    this.out?.postMessage({ samples, skipped: this.skipped, rate: sampleRate, isLast }, [samples.buffer]);
    this.begin();
  }
}

registerProcessor('take-worklet', TakeWorklet);
