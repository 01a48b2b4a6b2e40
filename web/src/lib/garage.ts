/** Which of one's garages one is in: the one chosen last, or that of the machine one opened. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";
import { client, type Garage, unwrap } from "../api/client";
import { keeperKey } from "./drafts";

const listeners = new Set<() => void>();
const chosen = () => Number(localStorage.getItem(keeperKey("garage"))) || 0;
const listen = (told: () => void) => {
  listeners.add(told);
  return () => void listeners.delete(told);
};

/** From here on this one is the garage one is in, on this device. */
export function chooseGarage(id: number): void {
  if (chosen() === id) return;
  localStorage.setItem(keeperKey("garage"), String(id));
  for (const told of listeners) told();
}

export const useGarages = () => useQuery({ queryKey: ["garages"], queryFn: () => unwrap(client.GET("/api/garages")) }).data;

/** The garage one is in, or the one asked for. */
export function useGarage(id?: number): Garage | undefined {
  const all = useGarages();
  const here = useSyncExternalStore(listen, chosen);
  return all?.find((one) => one.id === (id ?? here)) ?? (id === undefined ? all?.[0] : undefined);
}

/** Whoever opens a machine is in its garage: units, finder and riders are that one's. */
export function useInGarageOf(build: { garage_id: number } | undefined): void {
  const id = build?.garage_id;
  useEffect(() => {
    if (id !== undefined) chooseGarage(id);
  }, [id]);
}
