import { Dialog, MenuItem, TextField } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Panel, type Schemas } from "../../api/client";
import { Notice } from "../../ui/Notice";
import { count, short, um, unitName } from "../../app/format";

type File = Schemas["ImportFile"];
type Preview = Schemas["ImportPreview"];
const kinds = ["film", "x", "y", "panel", "time"] as const;

/** A file of readings: what was understood, row by row, before anything is kept. */
export function ImportDialog({ panel, car, close }: { panel?: Panel; car: { id: string; name: string }; close: () => void }) {
  const queries = useQueryClient();
  const [file, setFile] = useState<File | null>(null);
  const [changing, setChanging] = useState(false);
  const [fileFault, setFileFault] = useState("");
  const preview = useMutation({ mutationFn: (f: File) => (panel ? api.previewImport(panel.id, f) : api.previewCarImport(car.id, f)) });
  const confirm = useMutation({
    mutationFn: (f: File) => (panel ? api.confirmImport(panel.id, f) : api.confirmCarImport(car.id, f)),
    onSuccess: () => queries.invalidateQueries(),
  });
  const look = (f: File) => {
    setFile(f);
    preview.mutate(f);
  };
  const take = async (input: HTMLInputElement) => {
    const chosen = input.files?.[0];
    if (!chosen) return;
    input.value = ""; // so that the same file, mended, can be chosen again
    setFileFault("");
    setFile(null);
    preview.reset();
    confirm.reset();
    if (chosen.size > 4 * 1024 * 1024) {
      setFileFault(`${chosen.name} has ${(chosen.size / 1e6).toFixed(1)} MB; readings of a whole car fit in one, 4 MB at most.`);
      return;
    }
    try {
      const text = new TextDecoder("utf-8", { fatal: true }).decode(await chosen.arrayBuffer());
      look({ file_name: chosen.name, text });
    } catch {
      setFileFault(`${chosen.name} is not UTF-8 text. Save it again as CSV with UTF-8 encoding.`);
    }
  };
  const p = preview.data;
  const done = confirm.data;
  return (
    <Dialog open onClose={close} aria-labelledby="import" maxWidth={false}>
      <form
        style={{ padding: "26px 32px", width: 920, maxWidth: "100%", display: "flex", flexDirection: "column", gap: 12, maxHeight: "88vh" }}
        onSubmit={(event) => {
          event.preventDefault();
          if (done) close();
          else if (file && p && p.new_rows > 0) confirm.mutate(file);
        }}
      >
        <div style={{ display: "flex", justifyContent: "space-between" }}>
          <h2 id="import" className="t" style={{ fontSize: 27, lineHeight: "32px" }}>
            {done ? `${count(done.kept, "reading")} kept` : p ? `${count(p.rows.length, "row")}, ${p.bad_rows} to look at` : "Import readings"}
          </h2>
          <button type="button" className="linkish" style={{ borderBottom: 0 }} onClick={close}>
            <span className="kc">Esc</span> leave
          </button>
        </div>
        {done ? (
          <p className="s">
            {done.known} known before, {done.left_out} left out. The same file again adds nothing.
          </p>
        ) : p ? (
          <p className="s">
            {p.file_name}, {p.delimiter} between columns, decimal {p.decimal}. Nothing is kept until you say so.
          </p>
        ) : (
          <p className="s">{panel ? `A CSV file from the gauge for the ${panel.name}, or for the whole car with a column panel` : "A CSV file from the gauge for the whole car with a column panel"}: film, several shots in a row if it has them, and x and y in mm where it has them.</p>
        )}
        {done ? null : (
          <label className="key" style={{ alignSelf: "flex-start", minHeight: 44 }}>
            {file ? "Another file" : "Choose a file"}
            <input type="file" accept=".csv,.txt,.tsv,text/csv,text/plain" aria-label="File of readings" className="hide" style={{ position: "absolute" }} onChange={(e) => void take(e.target)} />
          </label>
        )}
        {fileFault ? <Notice text={fileFault} /> : null}
        {preview.error ? <Notice text={preview.error.message} /> : null}
        {confirm.error ? <Notice text={confirm.error.message} /> : null}
        {file && (preview.error ?? p) && !done ? (
          <Understood file={file} preview={p} car={car.name} changing={changing || Boolean(preview.error) || p?.columns.film === 0} change={() => setChanging(!changing)} look={look} />
        ) : null}
        {p?.columns.film === 0 && !done ? <Notice text="No column looks like film. Choose it under Column of film." /> : null}
        {p && !done && !preview.error ? <Rows preview={p} /> : null}
        <div style={{ display: "flex", gap: 10, justifyContent: "flex-end", alignItems: "center" }}>
          {p && !done ? (
            <span className="s" style={{ marginRight: "auto" }}>
              {p.known_rows > 0 ? `${count(p.known_rows, "row")} kept before. ` : ""}
              {p.bad_rows > 0 ? `${count(p.bad_rows, "row")} left out, each with its reason. ` : ""}
              <span className="b">{p.new_rows} count.</span>
            </span>
          ) : null}
          {done ? null : (
            <button type="button" className="key q" onClick={close}>
              Not now
            </button>
          )}
          <button type="submit" className="key tape" disabled={!done && (!p || p.new_rows === 0 || confirm.isPending || preview.isPending || Boolean(preview.error))}>
            {done ? panel ? "Back to the panel" : "Back to the car" : p ? (p.new_rows > 0 ? `Keep ${p.new_rows}${p.bad_rows ? `, leave out ${p.bad_rows}` : ""}` : "Nothing new") : "Keep"} <span className="kc">Enter</span>
          </button>
        </div>
      </form>
    </Dialog>
  );
}

function Understood({ file, preview, car, changing, change, look }: { file: File; preview: Preview | undefined; car: string; changing: boolean; change: () => void; look: (f: File) => void }) {
  const heading = (n: number) => (n > 0 ? (preview?.headings[n - 1] ?? `column ${n}`) : "none");
  const pick = <K extends "delimiter" | "decimal" | "unit">(field: K) => (event: { target: { value: string } }) => look({ ...file, [field]: event.target.value as never });
  return (
    <div style={{ borderTop: "1.5px solid var(--ink)", borderBottom: "1px solid var(--line)", padding: "10px 0" }}>
      <div style={{ display: "flex", gap: 34, alignItems: "center", flexWrap: "wrap" }}>
        <div>
          <div className="lab">car</div>
          <div className="b">{car}</div>
        </div>
        {preview
          ? kinds.map((kind) => (
              <div key={kind}>
                <div className="lab">{kind === "film" ? `film, ${preview.unit === "um" ? "µm" : "mil"}` : kind}</div>
                <div className="b">{heading(preview.columns[kind])}</div>
              </div>
            ))
          : null}
        <button type="button" className="key q" style={{ marginLeft: "auto", minHeight: 40 }} onClick={change} aria-expanded={changing}>
          change columns
        </button>
      </div>
      {preview ? (
        <p className="xs" style={{ marginTop: 4 }}>
          Unit: {preview.unit_from}.
        </p>
      ) : null}
      {changing ? (
        <div style={{ display: "grid", gridTemplateColumns: "repeat(4,1fr)", gap: 12, marginTop: 12 }}>
          <TextField select size="small" label="Between columns" value={file.delimiter ?? preview?.delimiter ?? "comma"} onChange={pick("delimiter")}>
            {["comma", "semicolon", "tab"].map((v) => (
              <MenuItem key={v} value={v}>
                {v}
              </MenuItem>
            ))}
          </TextField>
          <TextField select size="small" label="Decimal sign" value={file.decimal ?? preview?.decimal ?? "point"} onChange={pick("decimal")}>
            {["point", "comma"].map((v) => (
              <MenuItem key={v} value={v}>
                {v}
              </MenuItem>
            ))}
          </TextField>
          <TextField select size="small" label="Unit of film" value={file.unit ?? preview?.unit ?? "um"} onChange={pick("unit")}>
            <MenuItem value="um">µm</MenuItem>
            <MenuItem value="mil">mil</MenuItem>
          </TextField>
          {preview
            ? kinds.map((kind) => (
                <TextField key={kind} select size="small" label={`Column of ${kind}`} value={preview.columns[kind]} onChange={(e) => look({ ...file, columns: { ...preview.columns, [kind]: Number(e.target.value) } })}>
                  <MenuItem value={0}>none</MenuItem>
                  {preview.headings.map((h, i) => (
                    <MenuItem key={i} value={i + 1}>
                      {h || `column ${i + 1}`}
                    </MenuItem>
                  ))}
                </TextField>
              ))
            : null}
        </div>
      ) : null}
    </div>
  );
}

const shown = 200;

function Rows({ preview }: { preview: Preview }) {
  const timed = preview.rows.some((r) => r.time);
  const bad = preview.rows.filter((r) => r.outcome === "bad");
  const rows = preview.rows.length <= shown ? preview.rows : [...bad, ...preview.rows.filter((r) => r.outcome !== "bad")].slice(0, shown);
  return (
    <div style={{ overflow: "auto", minHeight: 120 }} tabIndex={0} role="region" aria-label="Rows of the file">
      <table className="tb">
        <thead>
          <tr>
            <th className="r">row</th>
            <th>panel</th>
            {timed ? <th>time</th> : null}
            <th className="r">x, mm</th>
            <th className="r">y, mm</th>
            <th className="r">film, {unitName()}</th>
            <th>what happens</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r, i) => (
            <tr key={i} className={r.outcome === "bad" ? "on" : undefined}>
              <td className="n r">{r.row}</td>
              <td className="s" style={{ paddingRight: 16 }}>{r.panel ?? ""}</td>
              {timed ? <td className="s" style={{ paddingRight: 16 }}>{r.time ?? ""}</td> : null}
              <td className="n r">{r.x_mm === undefined ? "" : short(r.x_mm)}</td>
              <td className="n r">{r.y_mm === undefined ? "" : short(r.y_mm)}</td>
              <td className="n r">{r.film_um === undefined ? "" : um(r.film_um)}</td>
              <td style={{ whiteSpace: "normal", padding: "5px 0" }}>{r.outcome === "bad" ? <span className="b">{r.detail}</span> : r.detail}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {preview.rows.length > shown ? <p className="s">The first {shown} of {preview.rows.length} rows, the bad ones first.</p> : null}
    </div>
  );
}
