import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, type Schemas } from "../api/client";
import { useCare, useChanged, useSetShop, useShop } from "../api/queries";
import { Page } from "../app/Page";
import { useKeys } from "../app/keys";
import { Choice } from "../ui/Choice";
import { Field, Pick } from "../ui/Field";
import { FileKey } from "../ui/FileKey";
import { Notice } from "../ui/Notice";
import { NumberField } from "../ui/NumberField";
import { BackupPanel } from "./BackupPanel";
import { ImportCar } from "./ImportCar";
import { PaintSheets } from "./PaintSheets";
import { PhotoRule } from "./PhotoRule";
import { ShopFrame } from "./ShopFrame";
import { VerifyPanel } from "./VerifyPanel";
import { WorkshopPanel } from "./WorkshopPanel";

type Face = Schemas["ShopFace"];

/** The shop: its name and how it writes things, and its data in its own hands. */
export default function ShopPage() {
  const query = useShop();
  const go = useNavigate();
  useKeys({ Escape: () => void go("/") });
  return (
    <Page title="The shop" sub="its face, its papers, its data" home="/" who="the shop" query={query} keys={[{ keys: "Esc", does: "back to Today" }]}>
      {query.data ? (
        <ShopFrame>
          <div>
            <ShopFace shop={query.data} />
            <WorkshopPanel />
            <PaintSheets />
            <CareTimes />
          </div>
          <div>
            <BackupPanel />
            <VerifyPanel />
            <ImportCar />
            <PhotoRule />
            <section aria-label="For other programs">
              <h2 className="t">For other programs</h2>
              <p className="s">Everything that these pages do another program can do too, by the same contract.</p>
              <Box sx={{ display: "flex", flexWrap: "wrap", gap: "4px 20px" }}>
                <a className="linkish" href="/api">
                  The contract, to read
                </a>
                <a className="linkish" href="/api/openapi.json">
                  as OpenAPI
                </a>
                <a className="linkish" href="/api/formats/car.schema.json">
                  schema of a car&apos;s file
                </a>
              </Box>
            </section>
          </div>
        </ShopFrame>
      ) : null}
    </Page>
  );
}

/** Name and logo for the papers, and how money, lengths, times and days are written. */
function ShopFace({ shop }: { shop: Schemas["Shop"] }) {
  const set = useSetShop();
  const changed = useChanged();
  const logo = useMutation({ mutationFn: (file: File | null) => (file ? api.setLogo(file) : api.dropLogo()), onSuccess: () => changed("wording") });
  const face = shop.face;
  const change = (f: Face) => set.mutate({ face: f });
  const fault = set.error ?? logo.error;
  return (
    <section aria-label="How the shop shows itself">
      <h2 className="t">How the shop shows itself</h2>
      <Field key={face.name ?? ""} label="name of the shop, for its papers" defaultValue={face.name ?? ""} most={60} placeholder="such as Saltmarsh Refinish" onBlur={(e) => e.target.value.trim() !== (face.name ?? "") && change({ name: e.target.value.trim() })} onKeyDown={(e) => e.key === "Enter" && (e.target as HTMLElement).blur()} />
      <Box sx={{ display: "flex", gap: 14, alignItems: "center", flexWrap: "wrap" }}>
        {shop.has_logo ? <img src={`/api/shop/logo?at=${logo.submittedAt}`} alt="The logo" style={{ maxHeight: 56, maxWidth: 180, background: "#fff", padding: 4 }} /> : null}
        <FileKey label="Logo, PNG or JPEG" accept="image/png,image/jpeg" text={shop.has_logo ? "Another logo" : "Logo for the papers"} take={(file) => logo.mutate(file)} />
        {shop.has_logo ? (
          <Button variant="hint" onClick={() => logo.mutate(null)}>
            No logo
          </Button>
        ) : null}
      </Box>
      <div className="pairs">
        <Choice label="films in" value={shop.unit} options={[["um", "µm"], ["mil", "mil"]]} set={(unit) => set.mutate({ unit })} />
        <Choice label="lengths in" value={face.length ?? "mm"} options={[["mm", "mm"], ["in", "inches"]]} set={(length) => change({ length })} />
        <Choice label="temperatures in" value={face.temperature ?? "c"} options={[["c", "°C"], ["f", "°F"]]} set={(temperature) => change({ temperature })} />
        <Choice label="clock" value={face.clock ?? "24"} options={[["24", "24 hours"], ["12", "am, pm"]]} set={(clock) => change({ clock })} />
        <Choice label="paper" value={face.paper ?? "a4"} options={[["a4", "A4"], ["letter", "Letter"]]} set={(paper) => change({ paper })} />
        <Field key={face.money ?? ""} label="sign of the money" defaultValue={face.money ?? "€"} most={4} onBlur={(e) => e.target.value.trim() && e.target.value.trim() !== face.money && change({ money: e.target.value.trim() })} onKeyDown={(e) => e.key === "Enter" && (e.target as HTMLElement).blur()} />
        <Pick label="days are written" value={face.dates ?? "dmy"} set={(v) => change({ dates: v as "dmy" })}>
          <option value="dmy">28 November 2026</option>
          <option value="mdy">November 28, 2026</option>
          <option value="ymd">2026-11-28</option>
        </Pick>
        <Pick label="a week begins on" value={face.week ?? "monday"} set={(v) => change({ week: v as "monday" })}>
          <option value="monday">Monday</option>
          <option value="sunday">Sunday</option>
          <option value="saturday">Saturday</option>
        </Pick>
      </div>
      <TimeZone shop={shop} />
      {fault ? <Notice text={fault.message} /> : null}
    </section>
  );
}

/** Where the clock of this shop stands; the server's machine says it unless somebody else does. */
function TimeZone({ shop }: { shop: Schemas["Shop"] }) {
  const set = useSetShop();
  return (
    <>
      <Pick label="Times are shown in" value={shop.time_zone_set ? shop.time_zone : ""} set={(time_zone) => set.mutate({ time_zone })}>
        <option value="">the time of the server{shop.time_zone_set ? "" : `, ${shop.time_zone}`}</option>
        {[...new Set([...Intl.supportedValuesOf("timeZone"), shop.time_zone])].sort().map((zone) => (
          <option key={zone} value={zone}>
            {zone.replaceAll("_", " ")}
          </option>
        ))}
      </Pick>
      {set.error ? <Notice text={set.error.message} /> : null}
    </>
  );
}

/** How long owners are told to be careful, where no maker's sheet says otherwise. */
function CareTimes() {
  const rule = useCare().data;
  const changed = useChanged();
  const set = useMutation({ mutationFn: api.setCare, onSuccess: () => changed("wording") });
  if (!rule) return null;
  const change = (part: Partial<Schemas["CareRule"]>) => set.mutate({ ...rule, ...part });
  return (
    <section aria-label="Until when owners are careful">
      <h2 className="t">Until when owners are careful</h2>
      <p className="s">The shop&apos;s rule, where the paint maker&apos;s sheet says nothing: that comes first, in Hand over.</p>
      <div className="triple">
        <NumberField label="fresh, air dried: keep dry" unit="hours" value={rule.air_dry_h} show={String} keep={(v) => change({ air_dry_h: v })} />
        <NumberField label="fresh, baked: keep dry" unit="hours" value={rule.baked_dry_h} show={String} keep={(v) => change({ baked_dry_h: v })} />
        <NumberField label="waxed, coated: keep dry" unit="hours" value={rule.sealed_dry_h} show={String} keep={(v) => change({ sealed_dry_h: v })} />
        <NumberField label="first wash of fresh paint" unit="days" value={rule.first_wash_d} show={String} keep={(v) => change({ first_wash_d: v })} />
        <NumberField label="air dried breathes" unit="days" value={rule.air_breathe_d} show={String} keep={(v) => change({ air_breathe_d: v })} />
        <NumberField label="baked breathes" unit="days" value={rule.baked_breathe_d} show={String} keep={(v) => change({ baked_breathe_d: v })} />
      </div>
      {set.error ? <Notice text={set.error.message} /> : null}
    </section>
  );
}
