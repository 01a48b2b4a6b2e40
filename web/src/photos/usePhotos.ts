/** Photos of one thing: a part by itself; of a build all that belong to it at once, so that a hundred runs ask once. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Photo, unwrap } from "../api/client";

/** What a photo shows: a part, or of a build a step or plug of a setup, a run, or an entry. */
export type Shows =
  | { part: number }
  | { build: number; setup: number; place: string }
  | { build: number; trial: number }
  | { build: number; entry: number };

const isOf = (shows: Shows) => (photo: Photo) =>
  "part" in shows
    ? photo.part_id === shows.part
    : "trial" in shows
      ? photo.trial_id === shows.trial
      : "entry" in shows
        ? photo.entry_id === shows.entry
        : photo.setup_id === shows.setup && photo.place === shows.place;

export function usePhotos(garageId: number, shows: Shows) {
  const queryClient = useQueryClient();
  const key = ["photos", garageId, "part" in shows ? shows : { build: shows.build }];
  const query = useQuery({
    queryKey: key,
    queryFn: () =>
      unwrap(
        "part" in shows
          ? client.GET("/api/garages/{garage_id}/photos", { params: { path: { garage_id: garageId }, query: shows } })
          : client.GET("/api/builds/{build_id}/photos", { params: { path: { build_id: shows.build } } }),
      ),
  });
  return {
    photos: query.data?.filter(isOf(shows)),
    error: query.error,
    refresh: () => queryClient.invalidateQueries({ queryKey: key }),
  };
}
