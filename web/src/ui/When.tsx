import { FormControl, FormLabel } from "@mui/material";
import { AdapterDayjs } from "@mui/x-date-pickers/AdapterDayjs";
import { DateTimePicker } from "@mui/x-date-pickers/DateTimePicker";
import { LocalizationProvider } from "@mui/x-date-pickers/LocalizationProvider";
import dayjs, { type Dayjs } from "dayjs";
import timezone from "dayjs/plugin/timezone";
import utc from "dayjs/plugin/utc";
import { useUnits } from "../app/units";

dayjs.extend(utc);
dayjs.extend(timezone);

const parts: Partial<Record<Intl.DateTimeFormatPartTypes, string>> = { day: "DD", month: "MM", year: "YYYY", minute: "mm", dayPeriod: "A" };

/** The reader's language; American English only in a shop in America: it is the default of most browsers everywhere. */
function reader(zone: string | undefined): string {
  return navigator.language === "en-US" && zone !== undefined && !zone.startsWith("America/") ? "en-GB" : navigator.language;
}

/** How a date and time are written in a language, in the letters of the picker. */
function written(locale: string): { format: string; ampm: boolean } {
  const said = new Intl.DateTimeFormat(locale, { year: "numeric", month: "2-digit", day: "2-digit", hour: "2-digit", minute: "2-digit" });
  const ampm = said.resolvedOptions().hour12 === true;
  const format = said
    .formatToParts(new Date())
    .map((p) => (p.type === "hour" ? (ampm ? "hh" : "HH") : p.type === "literal" ? p.value.replace(/[\u202f\u00a0]/g, " ").replace(/[^\s./,:-]/g, "") : (parts[p.type] ?? "")))
    .join("");
  return { format, ampm };
}

/** A moment: stored as UTC, shown in the shop's time, written as the reader's device does. */
export function When({ label, value, set }: { label: string; value: string | undefined; set: (at: string) => void }) {
  const { zone } = useUnits();
  const { format, ampm } = written(reader(zone));
  return (
    <LocalizationProvider dateAdapter={AdapterDayjs}>
      <FormControl fullWidth>
        <FormLabel component="div">{label}</FormLabel>
        <DateTimePicker
          value={value ? dayjs(value) : null}
          timezone={zone ?? "system"}
          format={format}
          ampm={ampm}
          onAccept={(at: Dayjs | null) => (at?.isValid() ? set(at.toISOString()) : undefined)}
          slotProps={{ textField: { "aria-label": label, size: "small" }, desktopPaper: { sx: { border: "1.5px solid var(--ink)", boxShadow: "none" } } }}
        />
      </FormControl>
    </LocalizationProvider>
  );
}
