// Photographs of the set are kept on the device with what was read at the camera, to be looked at without a
// server.
import { recall, remember } from "./store";

/** As large as a telephone shows it. */
const SEEN_PX = 960;

/** The picture of a photograph: from this device, else from the server; null where neither has it. */
export async function pictureOf(person: string, still: number): Promise<Blob | null> {
  const name = `still ${still}`;
  const kept = (await recall(person, name))?.body as Blob | undefined;
  if (kept) return kept;
  const answer = await fetch(`/api/stills/${still}.jpg?width=${SEEN_PX}`).catch(() => null);
  if (!answer?.ok) return null;
  const found = await answer.blob();
  void remember(person, name, found);
  return found;
}
