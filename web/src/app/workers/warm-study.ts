const note = (step: string, rest = ''): string =>
  `<note><pitch><step>${step}</step><alter>1</alter><octave>5</octave></pitch><duration>2</duration><voice>1</voice><type>eighth</type><accidental>sharp</accidental>${rest}</note>`;
const tuplet =
  '<time-modification><actual-notes>3</actual-notes><normal-notes>2</normal-notes></time-modification>';
const words = (inside: string): string =>
  `<direction placement="above"><direction-type>${inside}</direction-type></direction>`;

const measure = `<attributes><divisions>4</divisions><key><fifths>-2</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time><clef><sign>G</sign><line>2</line></clef></attributes>
${words('<words font-style="italic">dolce</words>')}${words('<metronome><beat-unit>quarter</beat-unit><beat-unit-dot/><per-minute>72</per-minute></metronome>')}
<direction placement="below"><direction-type><dynamics><mf/></dynamics></direction-type></direction>${words('<wedge type="crescendo"/>')}
<note><grace slash="yes"/><pitch><step>G</step><octave>4</octave></pitch><voice>1</voice><type>16th</type></note>
${note('C', '<beam number="1">begin</beam><notations><slur type="start" number="1"/><articulations><staccato/><accent/></articulations></notations>')}
${note('D', '<beam number="1">end</beam><notations><slur type="stop" number="1"/><articulations><tenuto/></articulations></notations>')}
<note><rest/><duration>1</duration><voice>1</voice><type>16th</type></note>
<note><pitch><step>A</step><octave>5</octave></pitch><duration>3</duration><tie type="start"/><voice>1</voice><type>eighth</type><dot/><notations><tied type="start"/><ornaments><trill-mark/></ornaments></notations></note>
${words('<wedge type="stop"/>')}${['E', 'F', 'G'].map((step, n) => note(step, `${tuplet}<notations>${n === 0 ? '<tuplet type="start" bracket="yes"/>' : n === 2 ? '<tuplet type="stop"/>' : ''}</notations>`)).join('')}
<note><pitch><step>B</step><octave>3</octave></pitch><duration>4</duration><voice>1</voice><type>quarter</type><notations><fermata/></notations></note>`;

/** A little of everything a study has, so that the engine has done it all once before somebody waits for it. */
export const WARM_STUDY = `<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>–</part-name></score-part></part-list><part id="P1"><measure number="1">${measure}</measure><measure number="2">${measure}<barline location="right"><bar-style>light-heavy</bar-style><repeat direction="backward"/></barline></measure></part></score-partwise>`;
