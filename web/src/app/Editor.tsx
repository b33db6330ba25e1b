import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { Session } from '../store/session';
import { useBlockDraft } from '../store/blockDraft';
import { useUi } from '../store/ui';
import { useWalkArea } from '../store/walkArea';
import { Sheet } from './Sheet';

/** Opens a level and shows the frame around it; says why when it cannot, and tries again. */
export function Editor() {
  const { id } = useParams();
  const [tries, setTries] = useState(0);
  return <Opened key={`${id}/${tries}`} id={id!} again={() => setTries((n) => n + 1)} />;
}

function Opened({ id, again }: { id: string; again(): void }) {
  const [session, setSession] = useState<Session>();
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    let current: Session | undefined;
    let gone = false;
    Session.open(id).then(
      (s) => {
        if (gone) {
          s.close();
          return;
        }
        current = s;
        useUi.setState({ selection: [], isolated: undefined, workPlane: undefined, mode: 'orbit', tool: 'select', lastTool: {} });
        useBlockDraft.setState({ running: false });
        useWalkArea.setState({
          snags: [],
          areas: undefined,
          stale: true,
          progress: undefined,
          summary: undefined,
          error: undefined,
        });
        setSession(s);
      },
      (e: Error) => {
        if (!gone) setProblem(e.message);
      },
    );
    return () => {
      gone = true;
      current?.close();
    };
  }, [id]);
  useEffect(() => {
    if (!problem) return;
    const timer = setTimeout(again, 2500);
    return () => clearTimeout(timer);
  }, [problem, again]);
  if (problem) {
    return (
      <main className="grid h-full place-content-center gap-3 text-center">
        <p role="alert" className="m-0">
          <b>This level cannot be opened:</b> {problem}.
        </p>
        <p className="label m-0">Rammer tries again by itself.</p>
        <p className="m-0">
          <Link className="act" to="/">
            back to the levels
          </Link>
        </p>
      </main>
    );
  }
  if (!session)
    return (
      <main className="grid h-full place-content-center">
        <p role="status">opening the level</p>
      </main>
    );
  return <Sheet session={session} key={session.id} />;
}
