"""Many threads ask many things of the same results while others let go of them: nobody waits for ever."""

import os
import unittest
from itertools import cycle
from threading import Event, Thread

from engine.chain import run
from engine.processors import shared_out
from engine.verification.marks import marks
from engine.verification.proof import prove
from tests.engine.helpers import hall

#: how long the threads ask, and how long the last answer may take, in seconds
ASKING, LAST = 60.0 if os.environ.get("LORICA_LONG") == "1" else 4.0, 30.0


class Together(unittest.TestCase):
    def test_asking_and_letting_go(self):
        chains = [run(hall(frames=frames)) for frames in (2, 3)]
        enough = Event()
        answers: list[str] = []
        errors: list[BaseException] = []

        def ask(what):
            for chain in cycle(chains):
                if enough.is_set():
                    return
                try:
                    what(chain)
                    answers.append(what.__name__)
                except BaseException as error:
                    errors.append(error)
                    return

        def of_combinations(chain):
            marks(chain.verification, chain.combinations)

        def a_proof(chain):
            verdict = chain.verification.verdicts[3]
            prove(chain.verification, chain.combinations, verdict.member, verdict.outcomes[0])

        def diagrams(chain):
            assert chain.verification.peaks.My.size

        def segments(chain):
            assert len(chain.verification.grounds.segments().N)

        def let_go(chain):
            chain.verification.grounds.forget()

        work = [of_combinations, a_proof, diagrams, segments, let_go] * 3
        threads = [Thread(target=ask, args=(what,), daemon=True) for what in work]
        for thread in threads:
            thread.start()
        enough.wait(ASKING)
        enough.set()
        for thread in threads:
            thread.join(LAST)
        self.assertEqual(errors, [])
        self.assertFalse([thread for thread in threads if thread.is_alive()], "threads wait for one another")
        self.assertEqual(set(answers), {what.__name__ for what in work})

    def test_work_within_shared_work_is_done(self):
        def inner(number):
            return number + 1

        def outer(number):
            return sum(shared_out(inner, range(number)))

        self.assertEqual(list(shared_out(outer, range(20))), [n * (n + 1) // 2 for n in range(20)])


if __name__ == "__main__":
    unittest.main()
