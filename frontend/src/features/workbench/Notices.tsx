import { Button } from 'antd';
import { settleConflict, useBench } from './bench';
import { choose } from './choosing';

/** What needs a decision: an edit that came too late, or a fault without a field of its own. */
export function Notices() {
  const conflict = useBench((b) => b.conflict);
  const fault = useBench((b) => b.fault);
  const told = useBench((b) => b.told);
  if (conflict) {
    return (
      <div className="notice" role="alert">
        <span>
          This piece was changed in another window ({conflict.theirs.slice(-3).join(', ') || 'a newer revision'}). Your
          change “{conflict.mine.label}” is kept here and has not been made yet.
        </span>
        {conflict.mine.intent.length > 0 && (
          <Button size="small" type="primary" onClick={() => void settleConflict(true)}>
            Take theirs, then make mine
          </Button>
        )}
        <Button size="small" onClick={() => void settleConflict(false)}>
          Take theirs only
        </Button>
      </div>
    );
  }
  if (fault) {
    return (
      <div className="notice" role="alert">
        <span>
          {fault.message} {fault.remedy}
        </span>
        <Button size="small" onClick={() => choose({ fault: null })}>
          Understood
        </Button>
      </div>
    );
  }
  if (told) {
    return (
      <div className="notice" role="status">
        <span>{told}</span>
        <Button size="small" onClick={() => choose({ told: null })}>
          Understood
        </Button>
      </div>
    );
  }
  return null;
}
