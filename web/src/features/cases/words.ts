/** The dentist's words for what the documents call things. */
export const kinds: [string, string][] = [
  ["fissure_caries", "Fissure caries"],
  ["pit_caries", "Pit caries"],
  ["proximal_caries", "Proximal caries"],
  ["cervical_caries", "Cervical caries"],
  ["old_restoration", "Old filling"],
  ["undermined_cusp", "Undermined cusp"],
  ["fracture", "Broken off"],
  ["crack", "Crack"],
];

export const depths: [string, string][] = [
  ["outer_enamel", "Outer enamel"],
  ["inner_enamel", "Inner enamel"],
  ["outer_dentin", "Outer dentin"],
  ["middle_dentin", "Middle dentin"],
  ["inner_dentin", "Inner dentin"],
];

const siteNames: Record<string, string> = {
  central: "Central fissure",
  mesial_pit: "Mesial pit",
  distal_pit: "Distal pit",
  buccal_pit: "Buccal pit",
  lingual_pit: "Lingual pit",
  buccal_groove: "Buccal groove",
  lingual_groove: "Lingual groove",
  mesiobuccal_groove: "Mesiobuccal groove",
  distobuccal_groove: "Distobuccal groove",
  mesiolingual_groove: "Mesiolingual groove",
  distolingual_groove: "Distolingual groove",
  buccal_cusp: "Buccal cusp",
  lingual_cusp: "Lingual cusp",
  mesiobuccal: "Mesiobuccal cusp",
  distobuccal: "Distobuccal cusp",
  mesiolingual: "Mesiolingual cusp",
  distolingual: "Distolingual cusp",
  distal_cusp: "Distal cusp",
  mesial: "Mesial",
  distal: "Distal",
  buccal: "Buccal",
  lingual: "Lingual",
  mesial_incisal: "Mesial corner",
  distal_incisal: "Distal corner",
};

/** The dentist's name of a site. */
export function siteName(site: string): string {
  return siteNames[site] ?? site;
}

/** A class as a record names it. */
export function className(plan: string): string {
  return plan === "rebuild" ? "Rebuild" : `Class ${plan}`;
}

/** What a tooth has for findings to lie on. */
export interface Places {
  anterior: boolean;
  pits: string[];
  grooves: string[];
  cusps: string[];
}

/** The kinds of findings that a tooth can have. */
export function kindsFor({ anterior, pits }: Places): [string, string][] {
  const never = anterior
    ? ["fissure_caries", "undermined_cusp", ...(pits.length > 0 ? [] : ["pit_caries"])]
    : [];
  return kinds.filter(([kind]) => !never.includes(kind));
}

/** The sites a kind of finding can have on a tooth with these places. */
export function sitesFor(kind: string, { anterior, pits, grooves, cusps }: Places): [string, string][] {
  const named = (sites: string[]) => sites.map((s): [string, string] => [s, siteNames[s] ?? s]);
  const has = (site: string) => pits.includes(site.replace("_", " "));
  const ends = ["mesial_pit", "distal_pit"].filter(has);
  const facePits = ["buccal_pit", "lingual_pit"].filter(has);
  const occlusal = anterior ? [] : ["central", ...ends];
  switch (kind) {
    case "proximal_caries":
      return named(["mesial", "distal"]);
    case "crack":
      return named(["mesial", "distal", "buccal", "lingual"]);
    case "cervical_caries":
      return named(["buccal", "lingual"]);
    case "old_restoration":
      return named([...occlusal, "mesial", "distal", "buccal", "lingual", ...facePits]);
    case "undermined_cusp":
      return named(cusps);
    case "fracture":
      return named(anterior ? ["mesial_incisal", "distal_incisal"] : cusps);
    case "pit_caries":
      return named([...occlusal, ...facePits]);
    default:
      return named([...occlusal, ...grooves]);
  }
}

export function confirmationQuestion(method: string): { label: string; hint: string } {
  switch (method) {
    case "universal":
      return { label: "Universal number", hint: "1 to 32, or A to T" };
    case "quadrant":
      return { label: "Quadrant and place", hint: "such as LR6" };
    default:
      return { label: "Arch, side and count from the midline", hint: "such as lower right 6" };
  }
}
