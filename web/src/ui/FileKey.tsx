import { Button } from "@mui/material";
import { useRef } from "react";

/** A key that has a file chosen; the same file, mended, can be chosen again. */
export function FileKey({ label, accept, text, take }: { label: string; accept: string; text: string; take: (file: File) => void }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={label}
        hidden
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = "";
          if (file) take(file);
        }}
      />
      <Button variant="quiet" sx={{ alignSelf: "flex-start", justifySelf: "start" }} onClick={() => input.current?.click()}>
        {text}
      </Button>
    </>
  );
}
