/** Verbs with which names of work begin. A verb with re-, un-, dis-, pre-, over- or out- before it counts as well. */
export const WORK_VERBS: ReadonlySet<string> = new Set(
  `accept achieve acquire adapt add adjust administer advertise agree align allocate analyse analyze anchor anneal announce answer apply appoint approve archive arrange assemble assess
assign attach audit authorise authorize award back backfill balance ballast batch bend bid bind blast bleed block board bolt bond book bore borrow box brace braze break brief bring brush build bulldoze bury buy
cable calculate calibrate call cap carry cast caulk certify chamfer change charge check choose chip clad clamp clarify clean clear close coat collect combine commission compact compare compile complete compose compress
concrete condition configure confirm connect consolidate construct consult contract convert cool coordinate copy correct couple cover crane create crimp crush cure cut
dam deal debug decide decommission decorate deepen define degrease deliver demolish demonstrate deploy derive design desludge detach detail determine develop dewater diagnose dig dismantle dispatch dispose distribute dive divert document dock dose
draft drain draw dredge dress drill drive dry dump earth elect elevate embark embed employ empty enable enclose encourage end engage engineer enlarge enter erect establish estimate etch evacuate evaluate examine excavate exchange execute expand explain export expose extend extract
fabricate face fasten feed fell fence fetch file fill filter finalise finalize finish fit fix flange flare flash float flood flush fly focus fold follow form format formulate frame free freeze furnish fuse
galvanise galvanize gather gauge generate get give glaze glue go grade grease grind grout guide hand handle hang harden harvest haul heat help hire hoist hold hook host house hydrotest
identify illuminate immerse implement import improve incline increase induct inform inject insert inspect install instruct insulate integrate interconnect interview investigate invite invoice irrigate isolate issue join
keep label lag laminate land lash launch lay lead learn lease leave level lift light line link list load lock log loosen lower lubricate
machine mail maintain make manage manufacture map mark market marshal mask match measure meet melt merge migrate mill mix mobilise mobilize model moderate modify monitor moor mould mount move muck
nail negotiate notify number obtain offer offload open operate optimise optimize order organise organize orient overhaul pack paint pane park pass patch pave pay penetrate perform photograph pick pickle pilot pipe place plan plane plant plaster plate plot plug plumb point polish post pour power practise prefabricate prepare present preserve press pressurise pressurize prevent price prime print procure produce program programme promote prop propose protect prototype prove provide prune publish pull pump punch purchase purge push put
qualify quantify quarry quench query quote rack raise ram rate reach read ready rebar receive recommend record recruit rectify recycle reduce reel refer refine refit reflect refuel register reinforce release relocate remediate remove render renew repair replace report request require rescue research reserve reset resolve respond restore restrain retain retrieve review revise rig rinse rivet roll roof rotate rout route run
sample sand sandblast saw scaffold scale scan schedule score scrape screed screen screw scrub seal search seat secure see seek seed segregate select sell send separate sequence serve service set settle sew shape sharpen sheet shift ship shop shore shot-blast show shred shut shuttle sign simulate site size sketch skid skim slice sling slope smooth soak solder solve sort source spare specify spin splice split spot spray spread spring square stabilise stabilize stack staff stage stain stake stamp stand start state steam steer step stitch stock store straighten strengthen stress stretch strike string strip structure study submit substitute suck supervise supply support survey suspend sweep switch synchronise synchronize
tack tag tail take tamp tank tap tape tap-test taper teach tear tell temper tender tension terminate test thaw thread throw tidy tie tighten tile tilt timber tint top tow trace track trade train transfer translate transmit transport treat trench trial trim troubleshoot truck try tune tunnel turn type undertake unload update upgrade upload use utilise utilize
vaccinate validate value vent ventilate verify vet vibrate view visit wait walk wall warm warn wash watch water weatherproof weave weigh weld wet widen wind winterise winterize wipe wire withdraw witness work wrap write x-ray zone`.split(
    /\s+/,
  ),
)

/** Participles that do not end in -ed. */
export const PARTICIPLES: ReadonlySet<string> = new Set(
  `arisen begun bent bid bound blown bought broken brought built burnt cast caught chosen come cut dealt done drawn driven dug fallen fed fit flown forgotten forbidden found frozen given gone ground grown held hidden hung kept known laid learnt led left lent let lit lost made met mown paid proven put read risen run sawn seen sent set sewn shaken shown shrunk shut sold sought spent split spread sprung spun stood stuck struck strung sunk sworn swept taken taught thrown told torn understood won worn wound woven written`.split(
    /\s+/,
  ),
)

/** States in which something can be said to be, without a verb. */
export const STATES: ReadonlySet<string> = new Set(
  `abandoned aboard active ashore afloat airtight available away certain clean clear closed cold complete cured dark dead dry effective empty fit free full home in-place intact level live off on onboard online open operational out over ready ripe safe secure sound stable tight up valid visible watertight weathertight`.split(
    /\s+/,
  ),
)

/** Words on -ed that are no participles. */
export const NO_PARTICIPLES: ReadonlySet<string> = new Set(
  'bed bleed breed creed command exceed feed heed indeed need proceed red reed seed shed sled speed steed succeed weed wed'.split(
    ' ',
  ),
)

/** First words of verbs that are written as two: "pressure test piping", "dry dock the ship". */
export const VERB_PREFIXES: ReadonlySet<string> = new Set(
  'back butt cold cross double dry factory flood function grit hand hot hydro jet leak load machine power pressure proof sand shop shot site soak soft spot spray steam tack tap wet'.split(
    ' ',
  ),
)
