/** Parts to choose from: the garage's own first, then those that ship. */
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { client, type RackPart, unwrap } from "../api/client";
import { parts as say } from "../texts/lib";
import { useGarage } from "./garage";
import { type Doc, same } from "./pointer";

/** A part to choose: one of the rack, or one that ships. */
export interface Offered {
  id: string;
  label: string;
  group: string;
  part: Doc;
  /** It is one of the garage's own. */
  own?: RackPart;
}

export function useShipped() {
  const { data } = useQuery({
    queryKey: ["parts"],
    queryFn: () => unwrap(client.GET("/api/parts")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return data;
}

export const rackKey = (garageId: number | undefined) => ["garage", garageId, "rack"] as const;

/** The rack of a garage; nothing while it is not known. */
export function useRack(garageId: number | undefined): RackPart[] | undefined {
  const { data } = useQuery({
    queryKey: rackKey(garageId),
    queryFn: () => unwrap(client.GET("/api/garages/{garage_id}/rack", { params: { path: { garage_id: garageId ?? 0 } } })),
    enabled: garageId !== undefined,
  });
  return data;
}

/** A part as one calls it: what it is, and its sticker. */
export const nameOf = (part: { label: string; letter: string }) => [part.label, part.letter].filter(Boolean).join(" ");

/** The key a part has by itself on the rack: one inside a kit is named by the kit's key and its place there. */
export const wholeKey = (key: string) => key.split(":")[0] ?? key;

const idOf = (key: string) => `rack-${key}`;

/** Parts of the rack as parts to choose. */
export const offeredOf = (rack: readonly RackPart[]): Offered[] =>
  rack.map((own) => ({ id: idOf(own.key), label: nameOf(own), group: say.yours, part: own.document as Doc, own }));

/** Parts by kind, those of the rack before those that ship. */
export function useParts(): Record<string, Offered[]> {
  const shipped = useShipped();
  const rack = useRack(useGarage()?.id);
  return useMemo(() => {
    const found: Record<string, Offered[]> = {};
    for (const part of offeredOf(rack ?? [])) {
      const kind = part.own?.kind ?? "";
      found[kind] = [...(found[kind] ?? []), part];
    }
    for (const [kind, parts] of Object.entries(shipped ?? {}))
      found[kind] = [...(found[kind] ?? []), ...parts.map((one) => ({ ...one, part: one.part as Doc }))];
    return found;
  }, [shipped, rack]);
}

/** Which of the parts on offer stands in a slot: the very one of the rack, else one that is called the same. */
export function chosenId(parts: readonly Offered[], slot: Doc | null | undefined): string {
  const key = (slot?.rack as { key?: string } | null | undefined)?.key;
  if (key !== undefined) return parts.find((one) => one.own?.key === key)?.id ?? "";
  return parts.find((one) => !one.own && one.label === slot?.label)?.id ?? "";
}

const partnerOf = (one: Offered) => (one.own?.about as { partner?: string } | undefined)?.partner;
const plain = ({ rack: _, ...rest }: Doc) => rest;

/** As many parts as are asked for: the one that was chosen, then others of the rack that are the same and may be planned with, then ones nobody has yet. */
export function manyOf(chosen: Offered, parts: readonly Offered[], count: number): Doc[] {
  if (!chosen.own) return Array.from({ length: count }, () => structuredClone(chosen.part));
  const alike = parts.filter(
    (one) => one.own && one.id !== chosen.id && !one.own.out && same(plain(one.part), plain(chosen.part)),
  );
  const partner = partnerOf(chosen);
  const inOrder = [
    chosen,
    ...alike.filter((one) => one.own?.key === partner),
    ...alike.filter((one) => one.own?.key !== partner),
  ];
  return Array.from({ length: count }, (_, i) => structuredClone(inOrder[i]?.part ?? plain(chosen.part)));
}

/** Alike parts of the rack as one entry to choose, with those of them that may be planned with; parts that ship as they are. */
export interface Kind {
  id: string;
  label: string;
  group: string;
  part: Doc;
  names: { key: string; label: string; letter: string }[];
}

/** Parts by kind and make: what is on the rack once for all alike, pairs beside each other. */
export function kindsOf(parts: readonly Offered[]): Kind[] {
  const found: Kind[] = [];
  const own = parts.filter((one) => one.own && !one.own.out);
  const beside = (one: Offered) => own.find((other) => other.own?.key === partnerOf(one));
  const inOrder = [...new Set(own.flatMap((one) => [one, ...[beside(one)].filter((other) => other !== undefined)]))];
  for (const one of inOrder) {
    const { key = "", label = "", letter = "" } = one.own ?? {};
    const like = found.find((kind) => kind.label === label && same(kind.part, plain(one.part)));
    if (like) like.names.push({ key, label, letter });
    else found.push({ id: one.id, label, group: one.group, part: plain(one.part), names: [{ key, label, letter }] });
  }
  for (const { id, label, group, part, own: mine } of parts) if (!mine) found.push({ id, label, group, part, names: [] });
  return found;
}
