import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Panel, type Schemas } from "../../api/client";
import { Ask, Foot } from "../../ui/Ask";
import { Pick } from "../../ui/Field";
import { FileKey } from "../../ui/FileKey";
import { useChanged } from "../../api/queries";
import { Scroll } from "../../ui/Scroll";
import { Notice } from "../../ui/Notice";
import { count, short } from "../../app/format";
import { useUnits } from "../../app/units";

type Readings = Schemas["ImportFile"];
type Preview = Schemas["ImportPreview"];
const kinds = ["film", "x", "y", "panel", "time"] as const;

/** A file of readings: what was understood, row by row, before anything is kept. */
export function ImportDialog({ panel, car, close }: { panel?: Panel; car: { id: string; name: string }; close: () => void }) {
  const changed = useChanged();
  const [file, setFile] = useState<Readings | null>(null);
  const [changing, setChanging] = useState(false);
  const [fileFault, setFileFault] = useState("");
  const preview = useMutation({ mutationFn: (f: Readings) => (panel ? api.previewImport(panel.id, f) : api.previewCarImport(car.id, f)) });
  const confirm = useMutation({
    mutationFn: (f: Readings) => (panel ? api.confirmImport(panel.id, f) : api.confirmCarImport(car.id, f)),
    onSuccess: () => changed("panel"),
  });
  const look = (f: Readings) => {
    setFile(f);
    preview.mutate(f);
  };
  const take = async (chosen: File) => {
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
    <Ask
      title={done ? `${count(done.kept, "reading")} kept` : p ? `${count(p.rows.length, "row")}, ${p.bad_rows} to look at` : "Import readings"}
      wide={920}
      leave
      close={close}
      submit={() => {
        if (done) close();
        else if (file && p && p.new_rows > 0) confirm.mutate(file);
      }}
    >
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
          <FileKey label="File of readings" accept=".csv,.txt,.tsv,text/csv,text/plain" text={file ? "Another file" : "Choose a file"} take={(f) => void take(f)} />
        )}
        {fileFault ? <Notice text={fileFault} /> : null}
        {preview.error ? <Notice text={preview.error.message} /> : null}
        {confirm.error ? <Notice text={confirm.error.message} /> : null}
        {file && (preview.error ?? p) && !done ? (
          <Understood file={file} preview={p} car={car.name} changing={changing || Boolean(preview.error) || p?.columns.film === 0} change={() => setChanging(!changing)} look={look} />
        ) : null}
        {p?.columns.film === 0 && !done ? <Notice text="No column looks like film. Choose it under Column of film." /> : null}
        {p && !done && !preview.error ? <Rows preview={p} /> : null}
        <Foot>
          {p && !done ? (
            <Box component="span" className="s" sx={{ marginRight: "auto" }}>
              {p.known_rows > 0 ? `${count(p.known_rows, "row")} kept before. ` : ""}
              {p.bad_rows > 0 ? `${count(p.bad_rows, "row")} left out, each with its reason. ` : ""}
              <span className="b">{p.new_rows} count.</span>
            </Box>
          ) : null}
          {done ? null : (
            <Button variant="quiet" onClick={close}>
              Not now
            </Button>
          )}
          <Button type="submit" variant="tape" disabled={!done && (!p || p.new_rows === 0 || confirm.isPending || preview.isPending || Boolean(preview.error))}>
            {done ? panel ? "Back to the panel" : "Back to the car" : p ? (p.new_rows > 0 ? `Keep ${p.new_rows}${p.bad_rows ? `, leave out ${p.bad_rows}` : ""}` : "Nothing new") : "Keep"} <span className="kc">Enter</span>
          </Button>
        </Foot>
    </Ask>
  );
}

function Understood({ file, preview, car, changing, change, look }: { file: Readings; preview: Preview | undefined; car: string; changing: boolean; change: () => void; look: (f: Readings) => void }) {
  const heading = (n: number) => (n > 0 ? (preview?.headings[n - 1] ?? `column ${n}`) : "none");
  const pick = <K extends "delimiter" | "decimal" | "unit">(field: K) => (v: string) => look({ ...file, [field]: v as never });
  return (
    <Box sx={{ borderTop: "1.5px solid var(--ink)", borderBottom: "1px solid var(--line)", padding: "10px 0" }}>
      <Box sx={{ display: "flex", gap: 34, alignItems: "center", flexWrap: "wrap" }}>
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
        <Button variant="quiet" sx={{ marginLeft: "auto", minHeight: 40 }} onClick={change} aria-expanded={changing}>
          change columns
        </Button>
      </Box>
      {preview ? (
        <Box component="p" className="xs" sx={{ marginTop: 4 }}>
          Unit: {preview.unit_from}.
        </Box>
      ) : null}
      {changing ? (
        <Box sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fill,minmax(150px,1fr))", gap: 12, marginTop: 12 }}>
          <Pick label="Between columns" value={file.delimiter ?? preview?.delimiter ?? "comma"} set={pick("delimiter")}>
            {["comma", "semicolon", "tab"].map((v) => (
              <option key={v} value={v}>
                {v}
              </option>
            ))}
          </Pick>
          <Pick label="Decimal sign" value={file.decimal ?? preview?.decimal ?? "point"} set={pick("decimal")}>
            {["point", "comma"].map((v) => (
              <option key={v} value={v}>
                {v}
              </option>
            ))}
          </Pick>
          <Pick label="Unit of film" value={file.unit ?? preview?.unit ?? "um"} set={pick("unit")}>
            <option value="um">µm</option>
            <option value="mil">mil</option>
          </Pick>
          {preview
            ? kinds.map((kind) => (
                <Pick key={kind} label={`Column of ${kind}`} value={String(preview.columns[kind])} set={(v) => look({ ...file, columns: { ...preview.columns, [kind]: Number(v) } })}>
                  <option value={0}>none</option>
                  {preview.headings.map((h, i) => (
                    <option key={i} value={i + 1}>
                      {h || `column ${i + 1}`}
                    </option>
                  ))}
                </Pick>
              ))
            : null}
        </Box>
      ) : null}
    </Box>
  );
}

const shown = 200;

function Rows({ preview }: { preview: Preview }) {
  const u = useUnits();
  const timed = preview.rows.some((r) => r.time);
  const bad = preview.rows.filter((r) => r.outcome === "bad");
  const rows = preview.rows.length <= shown ? preview.rows : [...bad, ...preview.rows.filter((r) => r.outcome !== "bad")].slice(0, shown);
  return (
    <Scroll label="Rows of the file" sx={{ minHeight: 120, maxHeight: "40vh" }}>
      <Table>
        <TableHead>
          <TableRow>
            <TableCell align="right">row</TableCell>
            <TableCell>panel</TableCell>
            {timed ? <TableCell>time</TableCell> : null}
            <TableCell align="right">x, mm</TableCell>
            <TableCell align="right">y, mm</TableCell>
            <TableCell align="right">film, {u.name}</TableCell>
            <TableCell>what happens</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((r, i) => (
            <TableRow key={i} selected={r.outcome === "bad"}>
              <TableCell align="right" className="n">{r.row}</TableCell>
              <TableCell className="s" sx={{ paddingRight: 16 }}>{r.panel ?? ""}</TableCell>
              {timed ? <TableCell className="s" sx={{ paddingRight: 16 }}>{r.time ?? ""}</TableCell> : null}
              <TableCell align="right" className="n">{r.x_mm === undefined ? "" : short(r.x_mm)}</TableCell>
              <TableCell align="right" className="n">{r.y_mm === undefined ? "" : short(r.y_mm)}</TableCell>
              <TableCell align="right" className="n">{r.film_um === undefined ? "" : u.um(r.film_um)}</TableCell>
              <TableCell sx={{ whiteSpace: "normal", padding: "5px 0" }}>{r.outcome === "bad" ? <span className="b">{r.detail}</span> : r.detail}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {preview.rows.length > shown ? <p className="s">The first {shown} of {preview.rows.length} rows, the bad ones first.</p> : null}
    </Scroll>
  );
}
