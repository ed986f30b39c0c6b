// A photograph's beginning, which holds its tags: the picture itself stays on the device, but for kinds that
// may keep their tags at the end.
const BEGINNING = 1_500_000;
const AT_THE_END = /tiff/;

export function photographForm(file: File, where: boolean): FormData {
  const form = new FormData();
  const part = AT_THE_END.test(file.type) ? file : file.slice(0, BEGINNING, file.type);
  form.append("file", part, file.name);
  form.append("where", String(where));
  return form;
}
