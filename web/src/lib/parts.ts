/** The ship-with parts, for the pickers. */
import { useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";

export function useParts() {
  const { data } = useQuery({
    queryKey: ["parts"],
    queryFn: () => unwrap(client.GET("/api/parts")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return data ?? {};
}
