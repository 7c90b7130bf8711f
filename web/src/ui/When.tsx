import { FormControl, FormLabel } from "@mui/material";
import { AdapterDayjs } from "@mui/x-date-pickers/AdapterDayjs";
import { DateTimePicker } from "@mui/x-date-pickers/DateTimePicker";
import { LocalizationProvider } from "@mui/x-date-pickers/LocalizationProvider";
import type { FieldRef } from "@mui/x-date-pickers/models";
import dayjs, { type Dayjs } from "dayjs";
import timezone from "dayjs/plugin/timezone";
import updateLocale from "dayjs/plugin/updateLocale";
import utc from "dayjs/plugin/utc";
import { useRef } from "react";
import { useUnits } from "../app/units";

dayjs.extend(utc);
dayjs.extend(timezone);
dayjs.extend(updateLocale);

/** A moment: stored as UTC, shown in the shop's time, written as the shop writes days and times. */
export function When({ label, value, set }: { label: string; value: string | undefined; set: (at: string) => void }) {
  const { zone, dayFormat, twelve, weekStart } = useUnits();
  dayjs.updateLocale("en", { weekStart });
  const field = useRef<FieldRef<Dayjs | null>>(null);
  const take = (at: Dayjs) => (at.isValid() && at.year() > 1900 ? set(at.toISOString()) : undefined);
  // A day without a time is said too: it counts from noon.
  const noon = () => {
    const typed = Object.fromEntries((field.current?.getSections() ?? []).map((s) => [s.type, s.value]));
    if (typed["day"] && typed["month"] && typed["year"] && (!typed["hours"] || !typed["minutes"])) {
      const day = `${typed["year"]}-${typed["month"].padStart(2, "0")}-${typed["day"].padStart(2, "0")}T12:00`;
      take(zone ? dayjs.tz(day, zone) : dayjs(day));
    }
  };
  const format = `${dayFormat} ${twelve ? "hh:mm A" : "HH:mm"}`;
  return (
    <LocalizationProvider dateAdapter={AdapterDayjs}>
      <FormControl fullWidth onBlur={(e) => (e.currentTarget.contains(e.relatedTarget) ? undefined : noon())}>
        <FormLabel component="div">{label}</FormLabel>
        <DateTimePicker
          value={value ? dayjs(value) : null}
          timezone={zone ?? "system"}
          format={format}
          ampm={twelve}
          // Each change counts, not only one that is accepted: a day that was picked by mouse or finger is said.
          onChange={(at: Dayjs | null) => (at ? take(at) : undefined)}
          slotProps={{ field: { fieldRef: field }, textField: { "aria-label": label, size: "small" }, desktopPaper: { sx: { border: "1.5px solid var(--ink)", boxShadow: "none" } } }}
        />
      </FormControl>
    </LocalizationProvider>
  );
}
