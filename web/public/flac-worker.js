// Writes a take as 16-bit FLAC with libFLAC. A classic worker, because the library loads itself as a script.
self.FLAC_SCRIPT_LOCATION = '/flac/';
importScripts('/flac/libflac.min.wasm.js');

const COMPRESSION = 5;

function ready() {
  return self.Flac.isReady() ? Promise.resolve() : new Promise((done) => self.Flac.on('ready', done));
}

self.addEventListener('message', ({ data: { id, pieces, rate } }) => {
  void ready()
    .then(() => encoded(pieces, rate))
    .then((bytes) => self.postMessage({ id, bytes }, [bytes.buffer]))
    .catch(() => self.postMessage({ id, bytes: null }));
});

/** Pieces are lists of 16-bit samples. */
function encoded(pieces, rate) {
  const { Flac } = self;
  const total = pieces.reduce((sum, piece) => sum + piece.length, 0);
  const encoder = Flac.create_libflac_encoder(rate, 1, 16, COMPRESSION, total, 0);
  const parts = [];
  if (Flac.init_encoder_stream(encoder, (data) => parts.push(data.slice())) !== 0)
    throw new Error('The encoder does not begin.');
  for (const piece of pieces)
    Flac.FLAC__stream_encoder_process_interleaved(encoder, Int32Array.from(piece), piece.length);
  Flac.FLAC__stream_encoder_finish(encoder);
  Flac.FLAC__stream_encoder_delete(encoder);
  const bytes = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  return bytes;
}
