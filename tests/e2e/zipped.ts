/** Files as one zip archive. */
import yazl from 'yazl';

export async function zipped(files: [string, Uint8Array | string][]): Promise<Buffer> {
  const zip = new yazl.ZipFile();
  for (const [path, bytes] of files) zip.addBuffer(Buffer.from(bytes), path);
  zip.end();
  const chunks: Buffer[] = [];
  for await (const chunk of zip.outputStream) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks);
}
