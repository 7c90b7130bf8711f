import { Button } from "@mui/material";

/** A key that has a file chosen; the same file, mended, can be chosen again. */
export function FileKey({ label, accept, text, take }: { label: string; accept: string; text: string; take: (file: File) => void }) {
  return (
    <Button component="label" variant="quiet" sx={{ alignSelf: "flex-start", justifySelf: "start" }}>
      {text}
      <input
        type="file"
        accept={accept}
        aria-label={label}
        className="hide"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = "";
          if (file) take(file);
        }}
      />
    </Button>
  );
}
