/** What went wrong, said where it went wrong: the server's own sentence, or one for when there is none. */
import { memo, type ReactNode } from "react";
import { Failed } from "../api/client";
import { useSettings } from "../lib/settings";
import { trouble as say } from "../texts/ui";
import { sentence } from "../texts/units";

export const Trouble = memo(function Trouble({
  error,
  otherwise = say.thatDidNotWork,
  className = "mt-1",
}: {
  error: unknown;
  otherwise?: string;
  className?: string;
}) {
  const { units } = useSettings();
  if (!error) return null;
  return <Alert className={className}>{error instanceof Failed ? sentence(error.error.message, units) : otherwise}</Alert>;
});

export function Alert({ children, className = "mt-1" }: { children: ReactNode; className?: string }) {
  return (
    <p role="alert" className={`${className} font-semibold text-hottext`}>
      {children}
    </p>
  );
}
