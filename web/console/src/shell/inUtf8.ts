/** A table of text as UTF-8. One that is not is taken for Windows-1252, which spreadsheets of the West write; `foreign` says so. */
export async function inUtf8(file: Blob): Promise<{ table: Blob; foreign: boolean }> {
  const bytes = await file.arrayBuffer();
  const mark = new Uint8Array(bytes.slice(0, 2));
  // UTF-16 begins with its mark of byte order; a spreadsheet's "Unicode text" is written so.
  if ((mark[0] === 0xff && mark[1] === 0xfe) || (mark[0] === 0xfe && mark[1] === 0xff)) {
    return { table: new Blob([new TextDecoder(mark[0] === 0xff ? 'utf-16le' : 'utf-16be').decode(bytes)]), foreign: false };
  }
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return { table: file, foreign: false };
  } catch {
    return { table: new Blob([new TextDecoder('windows-1252').decode(bytes)]), foreign: true };
  }
}
