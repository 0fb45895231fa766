import { Button, Flex } from 'antd';
import { settleConflict, useBench } from './bench';
import { choose } from './choosing';

/** What needs a decision: an edit that came too late, or a fault without a field of its own. */
export function Notices() {
  const conflict = useBench((b) => b.conflict);
  const fault = useBench((b) => b.fault);
  const told = useBench((b) => b.told);
  if (conflict) {
    return (
      <Flex className="notice" align="center" gap={10} role="alert">
        <span className="spring">
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
      </Flex>
    );
  }
  if (fault) {
    return (
      <Flex className="notice" align="center" gap={10} role="alert">
        <span className="spring">
          {fault.message} {fault.remedy}
        </span>
        <Button size="small" onClick={() => choose({ fault: null })}>
          Understood
        </Button>
      </Flex>
    );
  }
  if (told) {
    return (
      <Flex className="notice" align="center" gap={10} role="status">
        <span className="spring">{told}</span>
        <Button size="small" onClick={() => choose({ told: null })}>
          Understood
        </Button>
      </Flex>
    );
  }
  return null;
}
