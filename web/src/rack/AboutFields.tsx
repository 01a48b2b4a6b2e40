/** A part as a thing: how it is, whose it is, what it cost, whether one like it can still be had. */
import { choices } from "../lib/choices";
import { read } from "../lib/pointer";
import { Grid } from "../stages/Heading";
import { aboutFields as say } from "../texts/rack";
import { DateField, NumberField, SelectField, TextField, useForm } from "../ui/Field";

/** Currencies most households count in; any other three letters of ISO 4217 can be typed where the page asks. */
const CURRENCIES = ["USD", "EUR", "GBP", "CHF", "CAD", "AUD", "NZD", "SEK", "NOK", "DKK", "PLN", "CZK", "HUF", "JPY"].map(
  (one) => [one, one] as const,
);

export function AboutFields({ single, currency }: { single: boolean; currency: string }) {
  const { doc, edit } = useForm();
  const status = String(read(doc, "/about/status") ?? "on hand");
  const price = read(doc, "/about/price") as { amount?: number; currency?: string } | null | undefined;
  return (
    <>
      <Grid min={150}>
        <SelectField
          label={say.status}
          pointer="/about/status"
          options={choices("About.status", {
            "on hand": say.onHand,
            ordered: say.ordered,
            borrowed: say.borrowed,
            wanted: say.wanted,
          })}
        />
        {status === "ordered" && <DateField label={say.expected} pointer="/about/expected" />}
        {status === "borrowed" && <TextField label={say.whose} pointer="/about/whose" />}
        {status === "borrowed" && <DateField label={say.goesBack} pointer="/about/expected" />}
        {single && (
          <SelectField
            label={say.state}
            pointer="/about/state"
            options={choices("About.state", { unknown: say.notLooked, retired: say.retired })}
          />
        )}
        <DateField label={say.bought} pointer="/about/bought" />
      </Grid>
      <Grid min={150}>
        <NumberField label={status === "wanted" ? say.asked : say.paid} pointer="/about/price/amount" plain />
        {price?.amount != null && (
          <SelectField
            label={say.currency}
            pointer="/about/price/currency"
            options={
              CURRENCIES.some(([one]) => one === (price.currency ?? currency))
                ? CURRENCIES
                : [...CURRENCIES, [price.currency ?? currency, price.currency ?? currency]]
            }
          />
        )}
        {price?.amount != null && <TextField label={say.where} pointer="/about/price/where" />}
        <SelectField
          label={say.had}
          pointer="/about/had"
          options={choices("About.had", { unknown: say.nobodyKnows, available: say.stillMade, discontinued: say.noLongerMade })}
        />
        <TextField label={say.seen} pointer="/about/seen" />
      </Grid>
      <TextField label={say.notes} pointer="/about/notes" long />
      {price?.amount != null && (
        <button type="button" className="btn quiet justify-self-start" onClick={() => edit("/about/price", null)}>
          {say.noPrice}
        </button>
      )}
    </>
  );
}
