/** A button that asks for a file: the browser's own field lies hidden behind it. */
import { type ReactNode, useRef } from "react";

interface Props {
  /** What the field is called for who cannot see it, such as "Course file, GPX or CSV". */
  label: string;
  accept: string;
  busy: boolean;
  quiet?: boolean;
  children: ReactNode;
  onFile: (file: File) => void;
}

export function FilePick({ label, accept, busy, quiet = false, children, onFile }: Props) {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={picker}
        type="file"
        accept={accept}
        className="sr-only"
        tabIndex={-1}
        aria-label={label}
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = "";
          if (file) onFile(file);
        }}
      />
      <button type="button" className={quiet ? "btn quiet" : "btn"} onClick={() => picker.current?.click()} disabled={busy}>
        {children}
      </button>
    </>
  );
}
