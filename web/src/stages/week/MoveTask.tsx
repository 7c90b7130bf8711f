import { Box, Button } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Ask, Foot } from "../../ui/Ask";
import { Pick } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { When } from "../../ui/When";
import type { Task, Week } from "./WeekPicture";

interface Props {
  week: Week;
  task: Task;
  error: string;
  busy: boolean;
  close: () => void;
  put: (move: Omit<Schemas["TaskMove"], "by">) => void;
  letIt: () => void;
}

/** Gives a task to somebody from a moment on, by keys. */
export function MoveTask({ week, task, error, busy, close, put, letIt }: Props) {
  const [person, setPerson] = useState(task.person);
  const [at, setAt] = useState(task.start);
  return (
    <Ask title={task.text} close={close} leave submit={() => put({ task: task.key, person, at })}>
      <p className="s">
        {task.car}. It begins then because: {task.why}.
      </p>
      <Box sx={{ display: "grid", gap: 14, gridTemplateColumns: { xs: "1fr", md: "1fr 1fr" } }}>
        <Pick label="who does it" value={person} set={setPerson}>
          {week.people.map((p) => (
            <option key={p.name} value={p.name}>
              {p.name}
            </option>
          ))}
        </Pick>
        <When label="from when on" value={at} set={setAt} />
      </Box>
      {error ? <Notice text={error} /> : null}
      <Foot>
        {task.put ? (
          <Button onClick={letIt} disabled={busy}>
            Plan it as the others
          </Button>
        ) : null}
        <Button type="submit" variant="tape" disabled={busy}>
          Put it there <span className="kc">Enter</span>
        </Button>
      </Foot>
    </Ask>
  );
}
