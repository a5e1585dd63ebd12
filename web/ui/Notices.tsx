import { useEffect } from 'react';
import { Button, Toast, ToastContainer } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { problemText } from '../app/api';
import { useRestoreBoardMutation, useRestoreDatasetMutation, useUnfoldMutation } from '../app/editing-api';
import { type Notice, noticed, noticeGone } from '../app/notices-slice';
import { useAppDispatch, useAppSelector } from '../app/store';
import { useLanguage } from './language';

const shownFor = 12_000;

function NoticeToast({ notice }: { notice: Notice }) {
  const { say } = useLanguage();
  const dispatch = useAppDispatch();
  const [restoreBoard] = useRestoreBoardMutation();
  const [restoreDataset] = useRestoreDatasetMutation();
  const [unfold] = useUnfoldMutation();
  const navigate = useNavigate();
  useEffect(() => {
    const timer = setTimeout(() => dispatch(noticeGone(notice.id)), shownFor);
    return () => clearTimeout(timer);
  }, [dispatch, notice.id]);
  const undo = async () => {
    const undo = notice.undo!;
    const result =
      undo.kind === 'fold'
        ? await unfold(undo)
        : undo.kind === 'board'
          ? await restoreBoard(undo.id)
          : await restoreDataset(undo.id);
    dispatch(noticeGone(notice.id));
    if ('error' in result) dispatch(noticed({ text: problemText(result.error) }));
    else if (undo.kind === 'fold') navigate(`/boards/${undo.scratch}`);
  };
  return (
    <Toast onClose={() => dispatch(noticeGone(notice.id))}>
      <Toast.Body>
        <span>{notice.text}</span>
        {notice.undo && (
          <Button size="sm" variant="outline-primary" onClick={undo}>
            {say('notice.undo')}
          </Button>
        )}
        <button
          type="button"
          className="btn-close"
          aria-label={say('notice.close')}
          onClick={() => dispatch(noticeGone(notice.id))}
        />
      </Toast.Body>
    </Toast>
  );
}

export function Notices() {
  const notices = useAppSelector((state) => state.notices);
  return (
    <ToastContainer className="sv-notices" data-part="notices" aria-live="polite">
      {notices.map((notice) => (
        <NoticeToast key={notice.id} notice={notice} />
      ))}
    </ToastContainer>
  );
}
