/** Browsers send file names as UTF-8, which multer reads as Latin-1. */
export function nameOfUpload(file: { readonly originalname: string }): string {
  return Buffer.from(file.originalname, 'latin1').toString('utf8').slice(-200);
}
