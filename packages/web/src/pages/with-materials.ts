/**
 * Puts files together that belong together: an OBJ and the material file (MTL) that it names, chosen or dropped at the
 * same time, become one OBJ that carries the materials' lines as comments.
 */
export async function withMaterials(files: readonly File[]): Promise<File[]> {
  const endsIn = (ending: string) => (file: File) => file.name.toLowerCase().endsWith(ending);
  const paints = files.filter(endsIn('.mtl'));
  if (paints.length === 0 || !files.some(endsIn('.obj'))) return [...files];
  const texts = await Promise.all(paints.map((file) => file.text()));
  const lines = texts.flatMap((text) => text.split(/\r?\n/)).map((line) => `#mtl ${line}\n`);
  const rest = files.filter((file) => !paints.includes(file));
  return rest.map((file) => (endsIn('.obj')(file) ? new File([file, '\n', ...lines], file.name) : file));
}
