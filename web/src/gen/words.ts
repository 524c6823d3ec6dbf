// Made by `make types` from the tables of core. Do not edit.

/** The kinds of wall. */
export const wallWords: Record<string, string> = {
  wood_stud: "wood stud",
  metal_stud: "metal stud",
  concrete: "concrete",
  block: "block or brick",
  lined_masonry: "lined masonry",
  timber_board: "timber board",
  thin_backer: "thin backer",
  hollow_board: "hollow board",
};

/** What the thickness of a wall's base is the thickness of. */
export const baseWords: Record<string, string> = {
  wood_stud: "Stud depth",
  metal_stud: "Stud depth",
  concrete: "Wall thickness",
  block: "Wall thickness",
  lined_masonry: "Masonry",
  timber_board: "Board",
  thin_backer: "Backer",
};

/** What is measured of one kind of wall and not so of another. */
export const lostWithKind: string[] = ["cavity_mm","steel_mm","block_kind","board_kind","treated","wet","species"];

/** The kinds of fastener that go into walls. */
export const fastenerWords: Record<string, string> = {
  lag: "lag screw",
  screw: "wood screw",
  plug: "wall plug",
  sleeve_anchor: "sleeve anchor",
  concrete_screw: "concrete screw",
  frame_fixing: "frame fixing",
  toggle: "toggle",
  anchor: "anchor",
};

/** The rules. */
export const ruleWords: Record<string, string> = {
  pattern: "Hole pattern",
  bolts: "Bolts per arm",
  thread: "Thread",
  stack: "Bolt stack",
  load: "Load",
  balance: "Balance",
  size: "Size",
  turn: "Turn",
  arms: "Arms",
  ports: "Ports",
  plugs: "Plugs",
  protrusion: "Stands out",
  tilt: "Tilt",
  swivel: "Swivel",
  hold: "Joint holds",
  data: "Figures",
  place: "Place",
  studs: "Studs",
  anchors: "Anchors",
  covering: "Covering",
  fastener: "Fastener",
  depth: "Hole depth",
  pilot: "Pilot hole",
  head: "Head on the plate",
  embedment: "Embedment",
  edges: "Edges, spacing",
  strength: "Strength",
  bending: "Stand-off bending",
  type_test: "Type test",
  handling: "People lean on it",
  vehicle: "Vehicle",
  plate: "Wall plate",
  above: "Above it",
  below: "Below it",
  lock: "Room at the lock",
  wall: "Wall’s ends",
  floor: "Floor",
  niche: "Niche",
  swept: "Swept room",
  services: "Hidden services",
  cables: "Cables",
  tether: "Tether",
  headroom: "Headroom",
  projection: "Public walkway",
};

/** The languages that steps and sheets are written in. */
export const languageWords: Record<string, string> = {
  en: "English",
  de: "Deutsch",
};
