import { FormControl, FormLabel } from "@mui/material";
import { AdapterDayjs } from "@mui/x-date-pickers/AdapterDayjs";
import { DateTimePicker } from "@mui/x-date-pickers/DateTimePicker";
import { LocalizationProvider } from "@mui/x-date-pickers/LocalizationProvider";
import dayjs, { type Dayjs } from "dayjs";
import timezone from "dayjs/plugin/timezone";
import updateLocale from "dayjs/plugin/updateLocale";
import utc from "dayjs/plugin/utc";
import { useUnits } from "../app/units";

dayjs.extend(utc);
dayjs.extend(timezone);
dayjs.extend(updateLocale);

/** A moment: stored as UTC, shown in the shop's time, written as the shop writes days and times. */
export function When({ label, value, set }: { label: string; value: string | undefined; set: (at: string) => void }) {
  const { zone, dayFormat, twelve, weekStart } = useUnits();
  dayjs.updateLocale("en", { weekStart });
  const format = `${dayFormat} ${twelve ? "hh:mm A" : "HH:mm"}`;
  return (
    <LocalizationProvider dateAdapter={AdapterDayjs}>
      <FormControl fullWidth>
        <FormLabel component="div">{label}</FormLabel>
        <DateTimePicker
          value={value ? dayjs(value) : null}
          timezone={zone ?? "system"}
          format={format}
          ampm={twelve}
          onAccept={(at: Dayjs | null) => (at?.isValid() ? set(at.toISOString()) : undefined)}
          slotProps={{ textField: { "aria-label": label, size: "small" }, desktopPaper: { sx: { border: "1.5px solid var(--ink)", boxShadow: "none" } } }}
        />
      </FormControl>
    </LocalizationProvider>
  );
}
