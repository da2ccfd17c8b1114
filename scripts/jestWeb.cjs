/** What browsers have and jsdom has not. */
const { TextDecoder, TextEncoder } = require('node:util');
Object.assign(globalThis, { TextDecoder, TextEncoder });

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
