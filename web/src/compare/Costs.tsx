/** What each setup costs, beside a new machine: with what one owns counted as nothing, or at its price. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type Build, client, unwrap } from "../api/client";
import { useGarage } from "../lib/garage";
import { costs as say } from "../texts/compare";
import { sumOf } from "../texts/locale";
import { parseNumber, plainNumber } from "../texts/units";
import { Segmented } from "../ui/Field";
import { Trouble } from "../ui/Trouble";

type Counted = "to_buy" | "whole";

export function Costs({ build, chosen }: { build: Build; chosen: number[] }) {
  const queryClient = useQueryClient();
  const currency = useGarage(build.garage_id)?.units.money ?? "USD";
  const [counted, setCounted] = useState<Counted>("to_buy");
  const price = build.new_price;
  const [typed, setTyped] = useState(price ? plainNumber(price.amount) : "");
  const costs = useQuery({
    queryKey: ["costs", build.id, build.setups.map((s) => s.version)],
    queryFn: () => unwrap(client.GET("/api/builds/{build_id}/costs", { params: { path: { build_id: build.id } } })),
  });
  const keep = useMutation({
    mutationFn: (amount: number | undefined) =>
      unwrap(
        client.PATCH("/api/builds/{build_id}", {
          params: { path: { build_id: build.id } },
          body: { new_price: amount === undefined ? "" : { amount, currency: price?.currency ?? currency, where: "" } },
        }),
      ),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ["build", build.id] }),
  });
  const value = parseNumber(typed);
  const bad = typed.trim() !== "" && (value === undefined || value < 0);
  const keepTyped = () => {
    if (!bad && value !== price?.amount) keep.mutate(typed.trim() === "" ? undefined : value);
  };
  return (
    <section aria-label={say.whatItCosts}>
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        <h2 className="flex-1 text-[15px]">{say.whatItCosts}</h2>
        <Segmented
          label={say.whatYouOwnCounts}
          value={counted}
          options={[
            ["to_buy", say.asNothing],
            ["whole", say.atItsPrice],
          ]}
          onChange={(v) => setCounted(v as Counted)}
        />
      </div>
      <ul className="border-t-[1.5px] border-ink">
        {chosen.map((id) => {
          const setup = build.setups.find((s) => s.id === id);
          const cost = costs.data?.find((one) => one.setup === id)?.[counted];
          return (
            <li key={id} className="flex flex-wrap gap-x-4 border-b border-line py-1">
              <span className="flex-1">{setup?.name}</span>
              {cost ? (
                <span className="text-right">
                  <b>{sumOf(cost)}</b>
                  {cost.unpriced > 0 && <span className="block text-small text-ink2">{say.unpriced(cost.unpriced)}</span>}
                </span>
              ) : (
                <span className="text-ink2">{costs.isPending ? "…" : "–"}</span>
              )}
            </li>
          );
        })}
        <li className="flex flex-wrap items-center gap-x-4 border-b border-line py-1">
          <label htmlFor="new-price" className="flex-1">
            {say.aNewMachine}
          </label>
          <span className="flex items-center gap-2">
            <input
              id="new-price"
              className="input w-28 text-right"
              inputMode="decimal"
              placeholder={say.notEntered}
              value={typed}
              aria-invalid={bad || undefined}
              onChange={(e) => setTyped(e.target.value)}
              onBlur={keepTyped}
              onKeyDown={(e) => e.key === "Enter" && keepTyped()}
            />
            <span className="text-ink2">{price?.currency ?? currency}</span>
          </span>
        </li>
      </ul>
      {bad && (
        <p role="alert" className="mt-1 text-small font-semibold text-hottext">
          {say.enterAnAmount}
        </p>
      )}
      <p className="mt-1 text-small text-ink2">{say.whereItComesFrom}</p>
      <Trouble error={costs.error ?? keep.error} className="mt-1" />
    </section>
  );
}
