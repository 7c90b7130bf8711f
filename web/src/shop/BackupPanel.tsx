import { Box, Button } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api } from "../api/client";
import { keys, useBackups } from "../api/queries";
import { useUnits } from "../app/units";
import { Tick } from "../ui/Field";
import { Notice } from "../ui/Notice";
import { NumberField } from "../ui/NumberField";

/** Bytes as they are said. */
const size = (bytes: number): string => (bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1e3))} kB` : `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`);

/** Copies of the whole shop: made now or every day, checked, taken along. */
export function BackupPanel() {
  const u = useUnits();
  const client = useQueryClient();
  const query = useBackups();
  const kept = (all: Awaited<ReturnType<typeof api.backups>>) => client.setQueryData(keys.backups(), all);
  const make = useMutation({ mutationFn: api.makeBackup, onSuccess: kept });
  const rule = useMutation({ mutationFn: api.setBackups, onSuccess: kept });
  const check = useMutation({ mutationFn: api.checkBackup });
  const all = query.data;
  const fault = query.error ?? make.error ?? rule.error ?? check.error;
  return (
    <section aria-label="Backups">
      <h2 className="t">Backups</h2>
      {fault ? <Notice text={fault.message} /> : null}
      {all ? (
        <>
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: "10px 20px", alignItems: "end" }}>
            <Button variant="key" disabled={make.isPending} onClick={() => make.mutate()}>
              {make.isPending ? "Copying" : "Copy the whole shop now"}
            </Button>
            <Tick checked={all.rule.daily} set={(daily) => rule.mutate({ ...all.rule, daily })}>
              every day by itself
            </Tick>
            <Box sx={{ width: 130 }}>
              <NumberField label="daily ones to keep" unit="" value={all.rule.keep} show={String} keep={(v) => rule.mutate({ ...all.rule, keep: Math.round(v) })} />
            </Box>
          </Box>
          {check.data ? (
            <p role="status">
              <b>{check.data.text}</b>
            </p>
          ) : null}
          <ul className="list" aria-label="Backups that were made">
            {all.made.slice(0, 8).map((b) => (
              <li key={b.name}>
                <span>
                  <span className="b">
                    {u.date(new Date(b.at))}, {u.clock(new Date(b.at))}
                  </span>{" "}
                  <span className="s">
                    {b.daily ? "daily" : "by hand"}, {size(b.bytes)}
                  </span>
                </span>
                <Box component="span" sx={{ display: "flex", gap: 16, alignItems: "center" }}>
                  <Button variant="hint" disabled={check.isPending} onClick={() => check.mutate(b.name)}>
                    {check.isPending && check.variables === b.name ? "Looking" : "Check it"}
                  </Button>
                  <a className="linkish" href={`/api/backups/${encodeURIComponent(b.name)}`} download={b.name}>
                    take it along
                  </a>
                </Box>
              </li>
            ))}
            {all.made.length === 0 ? <li className="s">None was made yet.</li> : null}
          </ul>
          <p className="s">{all.text}</p>
        </>
      ) : null}
    </section>
  );
}
