/** The photos of a step, plug, run or entry behind one small button that says how many there are. */
import { useState } from "react";
import { photosOf as say } from "../texts/photos";
import { Dialog } from "../ui/Dialog";
import { PhotoStrip } from "./PhotoStrip";
import { type Shows, usePhotos } from "./usePhotos";

export function PhotosOf({ garageId, shows, title }: { garageId: number; shows: Shows; title: string }) {
  const { photos } = usePhotos(garageId, shows);
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        className="btn quiet !min-h-7 !px-1 text-small max-desk:!min-h-11"
        aria-label={say.asked(title, photos?.length ?? 0)}
        onClick={() => setOpen(true)}
      >
        {say.button(photos?.length ?? 0)}
      </button>
      {open && (
        <Dialog open onOpenChange={setOpen} title={title}>
          <PhotoStrip garageId={garageId} shows={shows} />
        </Dialog>
      )}
    </>
  );
}
