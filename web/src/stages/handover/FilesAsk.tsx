import { Box } from "@mui/material";
import type { Schemas } from "../../api/client";
import { Ask } from "../../ui/Ask";

/** The papers and the whole car, each as a file in an open format. */
export function FilesAsk({ hand, close }: { hand: Schemas["Handing"]; close: () => void }) {
  const at = `/api/cars/${encodeURIComponent(hand.car.id)}`;
  const name = hand.car.name;
  const groups: [string, [string, string, string][]][] = [
    ["Owner's report", [["papers/report.pdf", "PDF", "to print"], ["papers/report.html", "page", "to read aloud, or to send"], ["calendar.ics", "calendar", "until when to be careful"]]],
    ["Film record", [["papers/record.pdf", "PDF", "one page, for the next person"], ["papers/record.html", "page", ""], ["papers/record.csv", "CSV", "a line for each panel"], ["papers/record.json", "JSON", "for a program"]]],
    ["What was kept", [["readings.csv", "readings, CSV", ""], ["marks.csv", "marks, CSV", ""], ["file", "whole car, ZIP", "with its photos, to keep or to take into another shop"]]],
  ];
  return (
    <Ask title="As files" close={close} leave wide={620}>
      {groups.map(([title, list]) => (
        <div key={title}>
          <Box component="h3" sx={{ fontSize: 15, m: "0 0 4px" }}>
            {title}
          </Box>
          <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
            {list.map(([path, kind, text]) => (
              <Box component="li" key={path} sx={{ borderBottom: "1px solid var(--line)", display: "flex", gap: 14, alignItems: "baseline" }}>
                <a className="linkish" style={{ padding: "10px 0", minWidth: 130 }} href={`${at}/${path}`} download={`${name} ${path.split("/").pop() ?? ""}${path === "file" ? ".zip" : ""}`}>
                  {kind}
                </a>
                <span className="s">{text}</span>
              </Box>
            ))}
          </Box>
        </div>
      ))}
    </Ask>
  );
}
