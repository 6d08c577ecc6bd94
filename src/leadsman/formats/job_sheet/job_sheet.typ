// The job sheet of a plan. All words come as data; nothing of them is read as markup.
#let sheet = json(bytes(sys.inputs.content))
#let grey = luma(90)
#let rule = 0.5pt + luma(160)

#set document(title: sheet.site + " · " + sheet.plan + " · job sheet")
#set page(
  paper: sheet.paper,
  margin: (x: 16mm, top: 20mm, bottom: 18mm),
  header: context {
    set text(9pt, grey)
    grid(columns: (1fr, auto),
      [#sheet.site · #sheet.plan · #sheet.revision],
      [#sheet.date])
    line(length: 100%, stroke: rule)
  },
  footer: context {
    set text(9pt, grey)
    grid(columns: (1fr, auto),
      [Job sheet, made with Leadsman],
      [page #counter(page).display("1 of 1", both: true)])
  },
)
#set text(font: "Libertinus Serif", size: 10.5pt, number-width: "tabular", lang: "en")
#set par(leading: 0.55em, spacing: 0.8em)
#show heading.where(level: 1): it => block(above: 1.4em, below: 0.7em, sticky: true, text(17pt, it.body))
#show heading.where(level: 2): it => block(above: 1.5em, below: 0.5em, sticky: true, text(12.5pt, it.body))
#set table(stroke: (x, y) => (bottom: rule), inset: (x: 3pt, y: 3.2pt), align: left + top)
#show table.cell.where(y: 0): set text(grey)

#let picture(svg, width: 100%) = image(bytes(svg), format: "svg", width: width)
#let box-to-tick = box(width: 3mm, height: 3mm, stroke: 0.7pt, baseline: 0.4mm)
#let small(body) = text(9pt, grey, body)
#let ticked(items) = for item in items { block(below: 0.5em)[#box-to-tick #h(1mm) #item] }

// ------------------------------------------------------------------ first page
#grid(columns: (1fr, auto), column-gutter: 6mm,
  [
    #text(24pt, weight: "bold")[#sheet.plan] \
    #text(13pt)[#sheet.site, #sheet.revision, #sheet.date]
    #v(2mm)
    #text(14pt, weight: "bold")[#sheet.sentence] \
    #small[Case: #sheet.case]
  ],
  if sheet.qr != none {
    align(right)[#picture(sheet.qr, width: 27mm) #small[opens the plan]]
  },
)
#v(1mm)
#grid(columns: (1fr,) * sheet.numbers.len(), column-gutter: 4mm,
  ..sheet.numbers.map(number => [
    #small[#number.title] \ #text(15pt, weight: "bold")[#number.value] \ #small[#number.wanted]
  ]))
#v(2mm)
#picture(sheet.plan_drawing)
#table(columns: (auto, 1.2fr, 1.6fr, auto, auto),
  table.header([No.], [Line], [Pipe], [Length], [Flow, all running]),
  ..sheet.lines.map(line => ([#line.number], [#line.name], [#line.pipe], [#line.length], [#line.flow])).flatten())

= Before you start
#if sheet.findings.len() == 0 [Nothing was found wrong with the plan.] else [
  #table(columns: (auto, 1fr),
    table.header([How bad], [What was found]),
    ..sheet.findings.map(one => ([#one.severity], [*#one.headline*. #small(one.why)])).flatten())
]
== Take care
#for caution in sheet.cautions { block(below: 0.45em)[⚠ #caution] }

= Order of work
#table(columns: (auto, 1fr, auto, auto),
  table.header([], [Step], [One person, h], [Two people, h]),
  ..sheet.work.filter(step => not step.later).map(step => (
    box-to-tick, [#step.told#if step.counted != "" [ #small[(#step.counted)]]], [#step.one], [#step.two])).flatten(),
  [], [*Until the water runs*], [*#sheet.work_sum.at(0)*], [*#sheet.work_sum.at(1)*],
  ..sheet.work.filter(step => step.later).map(step => (
    box-to-tick, [#step.told #small[(#step.counted)]], [#step.one], [#step.two])).flatten())
#small[Hours by our own rough figures for hands that have done it before: no source.]

// ------------------------------------------------------------------ parts
#pagebreak(weak: true)
= Shopping list
#sheet.price#if sheet.unpriced > 0 [; #sheet.unpriced rows have no price]. Pipe and vessels weigh #sheet.weight#if sheet.unweighed > 0 [, without #sheet.unweighed of unknown weight].
#for shop in sheet.shops [
  == #shop.shop
  #table(columns: (auto, 1fr, 0.62fr, auto, auto, auto),
    table.header([], [Part], [Where], [Needed], [To buy], [Total]),
    ..shop.rows.map(row => (
      box-to-tick,
      [#row.name#if row.details != "" [ \ #small(row.details)]],
      [#small(row.where)], [#row.needed], [*#row.buy*], [#row.total])).flatten())
]

// ------------------------------------------------------------------ joints
#pagebreak(weak: true)
= Joints
Each kind once, from the first end to the second; pieces numbered, what seals each by its letter. What the maker says goes before this.
#columns(2, gutter: 7mm, for joint in sheet.joints {
  block(breakable: false, width: 100%, above: 1.1em)[
    #set text(9.5pt)
    *#joint.title* #if joint.count > 1 [(#joint.count times)] \
    #small(joint.where)
    #if joint.trouble != "" [ \ *Not solved:* #joint.trouble ] else [
      #if joint.drawing != none [ \ #box(picture(joint.drawing, width: joint.share * 100%)) ]
      #for (number, piece) in joint.pieces.enumerate() [ \ #(number + 1): #piece ]
      #for seal in joint.seals [ \ #seal ]
      #if joint.why.len() > 0 [ \ #text(8.5pt, grey)[Why: #joint.why.join("; ").] ]
    ]
  ]
})

// ------------------------------------------------------------------ holes and floats
#if sheet.holes.len() > 0 [
  = Holes
  #table(columns: (auto, 0.8fr, 1.2fr, auto, auto, auto),
    table.header([], [Through the wall of], [What passes], [Middle over the floor], [Stem across], [Bit]),
    ..sheet.holes.map(hole => (
      box-to-tick, [#hole.vessel], [#hole.what#if hole.troubles != "" [ \ *#hole.troubles*]],
      [#hole.at], [#hole.stem], [#hole.bit])).flatten())
  #list(..sheet.hole_practice.map(one => [#one]))
]
#if sheet.settings.len() > 0 [
  = Floats
  #list(..sheet.setting_how.map(one => [#one]))
  #for setting in sheet.settings [
    #block(breakable: false, width: 100%)[
      == #setting.title
      #picture(setting.drawing, width: 82%)
      #for one in setting.floats [*#one.name.* #one.said.join(" ") \ ]
      #setting.notes.join(" ")
    ]
  ]
]

// ------------------------------------------------------------------ lines
= Profiles
Ground grey, pipe thick; the pressure line dark with its range, the level with all shut dashed; ▼ over high points, ▲ under low ones.
#for profile in sheet.profiles [
  #block(breakable: false, width: 100%)[
    == #profile.title
    #small(profile.said)
    #picture(profile.drawing)
  ]
]
#pagebreak(weak: true)
= Laying
#if sheet.posts != none [Posts stand #sheet.posts apart: count the spaces between them, six posts make five.] else [It is not said how far apart the posts stand, so no spaces are counted.]
First on the surface; test; mark; bury later. Call the utility locating service before digging.
#for run in sheet.laying [
  #block(breakable: run.rows.len() > 18, width: 100%)[
    == #run.title
    #picture(run.drawing)
    #table(columns: (auto, auto, auto, auto, 1fr),
      table.header([], [From its start], [Spaces], [Paces], [What to do there]),
      ..run.rows.map(row => (box-to-tick, [#row.at], [#row.spaces], [#row.paces], [#row.told])).flatten())
  ]
]

// ------------------------------------------------------------------ first water
#pagebreak(weak: true)
= First water
#ticked(sheet.first_water)
#table(columns: (1.4fr, auto, auto, auto, auto, auto, 1fr),
  table.header([Outlet], [Pipe holds], [Water within, min], [Alone], [Seconds for a pail], [Gauge, shut], [Measured]),
  ..sheet.outlets.map(one => (
    [#one.name], [#one.holds], [#one.within], [#one.alone], [#one.seconds], [#one.shut], [])).flatten())
#small[Water comes no later than that once the source is opened, the others shut: an empty pipe fills faster than a full one runs.]
