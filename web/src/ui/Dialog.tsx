/** A dialog in our clothes. */
import { Dialog as Radix } from "radix-ui";
import type { ReactNode } from "react";

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  description?: string;
  children: ReactNode;
}

export function Dialog({ open, onOpenChange, title, description, children }: Props) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="veil" />
        <Radix.Content className="sheet" {...(description ? {} : { "aria-describedby": undefined })}>
          <Radix.Title className="mb-1 text-[21px]">{title}</Radix.Title>
          {description && <Radix.Description className="mb-3 text-ink2">{description}</Radix.Description>}
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
