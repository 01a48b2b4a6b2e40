/** Help texts of the fields: the descriptions of the Setup document's own schema. */
import { useQuery } from "@tanstack/react-query";
import { useCallback } from "react";
import { client, unwrap } from "../api/client";

type Node = {
  description?: string;
  $ref?: string;
  anyOf?: Node[];
  items?: Node;
  properties?: Record<string, Node>;
  $defs?: Record<string, Node>;
};

function follow(node: Node | undefined, root: Node): Node | undefined {
  const ref = node?.$ref ?? node?.anyOf?.find((n) => n.$ref)?.$ref;
  if (ref) return root.$defs?.[ref.split("/").at(-1) ?? ""];
  return node?.anyOf?.find((n) => n.items) ?? node;
}

export function describe(schema: Node | undefined, pointer: string): string {
  let node = schema;
  let text = "";
  for (const step of pointer.split("/").filter(Boolean)) {
    if (!schema || !node) return "";
    const here: Node | undefined = follow(node, schema);
    const next: Node | undefined = /^\d+$/.test(step) ? here?.items : here?.properties?.[step];
    text = next?.description ?? text;
    node = next;
  }
  return text;
}

export function useHelp(): (pointer: string) => string {
  const { data } = useQuery({
    queryKey: ["setup-schema"],
    queryFn: () => unwrap(client.GET("/api/setup-schema")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return useCallback((pointer: string) => describe(data, pointer), [data]);
}
