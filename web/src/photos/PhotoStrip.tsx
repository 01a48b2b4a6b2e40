/** Photos of one thing: small ones side by side, one of them large when it is pressed; from the phone's camera or a file. */
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Photo, unwrap } from "../api/client";
import { useBinned } from "../bin/Undo";
import { upload } from "../lib/upload";
import { shortDay } from "../texts/locale";
import { photos as say } from "../texts/photos";
import { Dialog } from "../ui/Dialog";
import { FilePick } from "../ui/FilePick";
import { Trouble } from "../ui/Trouble";
import { type Shows, usePhotos } from "./usePhotos";

const pictureOf = (garageId: number, photo: Photo) => `/api/garages/${garageId}/photos/${photo.id}/picture`;
const nameOf = (photo: Photo) => photo.caption || say.photoOf(shortDay(photo.when));

export function PhotoStrip({ garageId, shows, title }: { garageId: number; shows: Shows; title?: string }) {
  const binned = useBinned();
  const [open, setOpen] = useState<Photo>();
  const [caption, setCaption] = useState("");
  const { photos, error, refresh } = usePhotos(garageId, shows);
  const take = useMutation({
    mutationFn: async (file: File) => {
      const sent = await upload(file, () => {});
      const { build: _build, ...thing } = { build: 0, ...shows };
      return unwrap(
        client.POST("/api/garages/{garage_id}/photos", {
          params: { path: { garage_id: garageId } },
          body: { upload: sent, caption, place: "", ...thing },
        }),
      );
    },
    onSuccess: () => {
      setCaption("");
      return refresh();
    },
  });
  const remove = useMutation({
    mutationFn: (photo: Photo) =>
      unwrap(
        client.DELETE("/api/garages/{garage_id}/photos/{photo_id}", {
          params: { path: { garage_id: garageId, photo_id: photo.id } },
        }),
      ),
    onSuccess: (_data, photo) => {
      setOpen(undefined);
      binned({ garage: garageId, kind: "photo", id: photo.id, name: nameOf(photo) });
      return refresh();
    },
  });
  return (
    <section aria-label={title ?? say.photos}>
      {title && <h2 className="mb-1 text-[15px]">{title}</h2>}
      {photos && photos.length > 0 && (
        <ul className="mb-2 flex flex-wrap gap-2">
          {photos.map((photo) => (
            <li key={photo.id}>
              <button
                type="button"
                className="block overflow-hidden rounded-lg border border-strong"
                aria-label={say.enlarge(nameOf(photo))}
                onClick={() => setOpen(photo)}
              >
                <img src={pictureOf(garageId, photo)} alt="" loading="lazy" className="size-20 object-cover" />
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className="flex flex-wrap items-end gap-2">
        <label className="block min-w-40 flex-1">
          <span className="mb-1 block text-small text-ink2">{say.whatItShows}</span>
          <input className="input" value={caption} maxLength={120} onChange={(e) => setCaption(e.target.value)} />
        </label>
        <FilePick label={say.photoFile} accept="image/*" busy={take.isPending} onFile={(file) => take.mutate(file)}>
          {take.isPending ? say.sending : say.addAPhoto}
        </FilePick>
      </div>
      <p className="mt-1 text-small text-ink3">{say.whereItWasTaken}</p>
      <Trouble error={take.error ?? error ?? remove.error} className="mt-1" />
      {open && (
        <Dialog open onOpenChange={() => setOpen(undefined)} title={nameOf(open)}>
          <img
            src={pictureOf(garageId, open)}
            alt={nameOf(open)}
            width={open.width}
            height={open.height}
            className="h-auto max-h-[60vh] w-full object-contain"
          />
          <p className="my-2 text-small text-ink2">{say.takenBy(shortDay(open.when), open.by_name)}</p>
          <button type="button" className="btn" disabled={remove.isPending} onClick={() => remove.mutate(open)}>
            {say.delete}
          </button>
        </Dialog>
      )}
    </section>
  );
}
