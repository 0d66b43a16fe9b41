// Takes the sound of a microphone in blocks, on the thread of the sound itself, and hands them to a worker of their own, so
// that nothing the page does can make it lose one.
const BLOCK = 4096;

class TakeWorklet extends AudioWorkletProcessor {
  constructor() {
    super();
    this.out = null;
    this.isRecording = false;
    this.isOver = false;
    this.next = null;
    this.lost = 0;
    this.begin();
    this.port.onmessage = ({ data }) => this.told(data);
  }

  begin() {
    this.block = new Float32Array(BLOCK);
    this.at = 0;
  }

  told({ out, command }) {
    if (out) this.out = out;
    if (command === 'record') {
      this.begin();
      this.lost = 0;
      this.isRecording = true;
    }
    if (command === 'stop' && this.isRecording) {
      this.isRecording = false;
      this.send(true);
    }
    if (command === 'close') this.isOver = true;
  }

  process([[channel] = []]) {
    const frames = channel?.length ?? 128;
    // What the sound's own clock skipped is silence in the take, so that its time stays right; it is counted.
    const skipped = this.next === null ? 0 : currentFrame - this.next;
    this.next = currentFrame + frames;
    if (skipped > 0) {
      if (this.isRecording) this.lost += skipped;
      this.fill(null, skipped);
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
    let peak = 0;
    for (const sample of samples) peak = Math.max(peak, Math.abs(sample));
    const isKept = this.isRecording || isLast;
    this.out?.postMessage(
      { peak, isLast, lost: this.lost, samples: isKept ? samples : null },
      isKept ? [samples.buffer] : [],
    );
    this.begin();
  }
}

registerProcessor('take-worklet', TakeWorklet);
