/** What browsers have and jsdom has not. */
const { deserialize, serialize } = require('node:v8');
const { TextDecoder, TextEncoder } = require('node:util');
// By way of bytes, so that what comes out is of this realm as messages are of theirs.
const structuredClone = (value) => deserialize(serialize(value));
Object.assign(globalThis, { TextDecoder, TextEncoder, structuredClone });

// jsdom's blobs cannot be read as bytes.
if (typeof Blob !== 'undefined' && !Blob.prototype.arrayBuffer)
  Blob.prototype.arrayBuffer = function () {
    return new Promise((resolve, reject) => {
      const reader = new FileReader();
      reader.onload = () => resolve(reader.result);
      reader.onerror = () => reject(reader.error);
      reader.readAsArrayBuffer(this);
    });
  };
