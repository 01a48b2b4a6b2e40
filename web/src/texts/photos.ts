/** What photos say. */

/** In photos/PhotoStrip.tsx. */
export const photos = {
  photos: "Photos",
  photoOf: (day: string) => `Photo of ${day}`,
  enlarge: (name: string) => `${name}, large`,
  whatItShows: "What the next photo shows (may stay empty)",
  photoFile: "Photo, from the camera or a file",
  addAPhoto: "Add a photo",
  sending: "Sending…",
  whereItWasTaken: "Shrunk and turned upright; where and with what it was taken is not kept.",
  takenBy: (day: string, name: string) => (name ? `${day}, by ${name}` : day),
  delete: "Delete it",
};

/** In photos/PhotosOf.tsx. */
export const photosOf = {
  button: (many: number) => (many === 0 ? "Add a photo…" : many === 1 ? "1 photo" : `${many} photos`),
  asked: (title: string, many: number) => (many === 0 ? `${title}: add one` : `${title}: ${many}`),
};
