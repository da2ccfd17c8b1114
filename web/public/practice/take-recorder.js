/** Hands what a microphone hears to the page, some twenty milliseconds at a time, with the clock's time of its first sample. */
const BATCH = 1024;

class TakeRecorder extends AudioWorkletProcessor {
  constructor() {
    super();
    this.batch = new Float32Array(BATCH);
    this.count = 0;
    this.since = 0;
  }

  process([input]) {
    const heard = input[0];
    const length = heard ? heard.length : 128;
    if (this.count === 0) this.since = currentTime;
    if (heard) this.batch.set(heard, this.count);
    else this.batch.fill(0, this.count, this.count + length);
    this.count += length;
    if (this.count >= BATCH) {
      this.port.postMessage({ since: this.since, samples: this.batch });
      this.batch = new Float32Array(BATCH);
      this.count = 0;
    }
    return true;
  }
}

registerProcessor('take-recorder', TakeRecorder);
