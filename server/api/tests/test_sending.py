"""Files sent to the stand-in by the queue's own hands: once, whole, halted, taken up by another worker."""

from __future__ import annotations

from unittest import mock

import shapely
from sending import addresses, queue
from sending.models import Sending

from hakobu.machines.sending import Halt
from simulator.machine import Build
from simulator.tests.running import Running
from simulator.tests.test_sending import lines_of

from .test_api import Case

TWO = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="120mm" height="80mm" viewBox="0 0 120 80">'
    b'<path id="a" d="M20 20h20v20h-20z" fill="#222"/><path id="b" d="M50 20h20v20h-20z" fill="#222"/>'
    b'<circle id="c" cx="90" cy="40" r="15" fill="#222"/></svg>'
)


class Machines(Case):
    machine, kind = "roll-cutter", "hpgl"
    #: How many times faster than a real one it works where it has to be caught in the middle.
    slow = 3.0

    def setUp(self):
        self.begin_machine()
        # What is deferred is carried out by hand.
        held = mock.patch.object(queue, "_defer")
        held.start()
        self.addCleanup(held.stop)
        job = self.upload(TWO, "two.svg").json()
        self.job = self.revise(job, settings={"machine": self.machine, "material": "paper"}).json()

    def begin_machine(self) -> None:
        self.stand_in = Running(self.kind, Build(width=600.0, height=400.0, pace=20.0))
        self.addCleanup(self.stand_in.stop)
        ports = mock.patch.dict("os.environ", {"HAKOBU_STAND_INS": f"{self.stand_in.port} {self.stand_in.port} 1"})
        ports.start()
        self.addCleanup(ports.stop)

    def at(self, tail: str) -> str:
        return f"/api/jobs/{self.job['id']}/{tail}"

    def ask(self, **body):
        return self.send(self.at(f"revisions/{self.job['head']['id']}/program/sendings"), body)

    def asked(self, **body) -> Sending:
        answer = self.ask(**body)
        self.assertEqual(answer.status_code, 201, answer.content)
        return Sending.objects.get(pk=answer.json()["id"])

    def told(self, row: Sending, what: str) -> dict:
        answer = self.client.post(self.at(f"sendings/{row.pk}/{what}"))
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.json()

    def cut(self) -> shapely.MultiLineString:
        strokes = self.stand_in.ask(strokes=True)["strokes"]
        return shapely.MultiLineString([points for _, _, points, _, _ in strokes if len(points) > 1])

    def hold(self, row: Sending) -> None:
        wanted, cut = lines_of(bytes(row.blob.data), self.kind), self.cut()
        self.assertAlmostEqual(cut.length, wanted.length, delta=0.05 + 1e-3 * wanted.length)
        self.assertLess(shapely.hausdorff_distance(wanted, cut, densify=0.2), 0.03)


class Sent(Machines):
    def test_a_file_is_sent_and_its_row_says_so(self):
        row = self.asked()
        self.assertEqual((row.state, row.strokes, row.done), ("waiting", 3, 0))
        queue.carry_out(row.pk)
        row.refresh_from_db()
        self.assertEqual((row.state, row.done, row.problem), ("done", 3, ""))
        self.assertIsNotNone(row.ended)
        self.hold(row)
        (listed,) = self.client.get(self.at("sendings")).json()
        self.assertEqual((listed["state"], listed["machine_name"]), ("done", "roll cutter"))
        self.assertEqual(listed["sha256"], row.blob_id)

    def test_the_same_file_is_sent_again_only_when_that_is_wanted(self):
        queue.carry_out(self.asked().pk)
        self.refused(self.ask(), 409, "changed-meanwhile", "was sent to the roll cutter before")
        self.stand_in.ask(clear=True)
        again = self.asked(again=True)
        queue.carry_out(again.pk)
        self.hold(again)

    def test_a_part_is_sent(self):
        row = self.asked(from_run=2)
        queue.carry_out(row.pk)
        self.assertEqual(len(self.stand_in.ask(strokes=True)["strokes"]), 1)

    def test_a_lost_worker_is_followed_by_one_that_asks_the_machine(self):
        row = self.killed()
        queue.carry_out(row.pk)
        row.refresh_from_db()
        self.assertEqual((row.state, row.attempt), ("done", 2))
        self.hold(row)

    def test_a_machine_that_was_switched_off_goes_on_as_a_person_says(self):
        for what, skips in (("go-on-behind", True), ("begin-anew", False)):
            row = self.killed()
            self.stand_in.stop()
            self.begin_machine()
            queue.carry_out(row.pk)
            row.refresh_from_db()
            self.assertEqual((row.state, row.forgotten), ("stopped", True))
            self.assertIn(f"{row.done} of 3 strokes were done for certain", row.problem)
            self.assertEqual(self.stand_in.ask(strokes=True)["strokes"], [])
            self.refused(self.client.post(self.at(f"sendings/{row.pk}/go-on")), 400, "bad-request", "say whether")
            left = 3 - (row.done if skips else 0)
            self.assertEqual(self.told(row, what)["state"], "waiting")
            queue.carry_out(row.pk)
            row.refresh_from_db()
            self.assertEqual((row.state, row.done, row.forgotten), ("done", 3, False))
            self.assertEqual(len(self.stand_in.ask(strokes=True)["strokes"]), left)

    def killed(self) -> Sending:
        """A file whose worker ends in the middle of it, without a word."""
        self.stand_in.served.machine.build = Build(width=600.0, height=400.0, pace=self.slow)
        row = self.asked(again=True)
        killing = mock.patch.object(queue, "_reporting", self.killing(queue._reporting))
        with killing, self.assertRaises(KeyboardInterrupt):
            queue.carry_out(row.pk)
        row.refresh_from_db()
        self.assertEqual((row.state, row.begun), ("running", True))
        self.assertIn(row.done, (1, 2))
        return row

    def killing(self, reporting):
        def patched(row: Sending):
            report = reporting(row)

            def told(done: int) -> Halt:
                wish = report(done)
                if done:
                    raise KeyboardInterrupt
                return wish

            return told

        return patched

    def test_a_line_that_is_cut_off_is_taken_up(self):
        row = self.asked()
        self.stand_in.ask(drop_after=160)
        with mock.patch.object(queue, "BETWEEN_S", 0.05):
            queue.carry_out(row.pk)
        row.refresh_from_db()
        self.assertEqual(row.state, "done")
        self.hold(row)

    def test_pause_go_on_and_cancel(self):
        self.stand_in.served.machine.build = Build(width=600.0, height=400.0, pace=2.0)
        row = self.asked()
        with mock.patch.object(queue, "_reporting", self.pausing(queue._reporting)):
            queue.carry_out(row.pk)
        row.refresh_from_db()
        self.assertEqual((row.state, row.begun), ("paused", True))
        self.assertGreater(row.done, 0)
        self.assertEqual(self.told(row, "go-on")["state"], "waiting")
        queue.carry_out(row.pk)
        row.refresh_from_db()
        self.assertEqual(row.state, "done")
        self.hold(row)
        other = self.asked(again=True)
        self.assertEqual(self.told(other, "cancel")["state"], "cancelled")
        queue.carry_out(other.pk)
        self.assertEqual(Sending.objects.get(pk=other.pk).state, "cancelled")
        self.refused(self.client.post(self.at(f"sendings/{other.pk}/go-on")), 400, "bad-request", "not halted")

    def pausing(self, reporting):
        """Asks for a pause as soon as a stroke is done, as a person would while the machine works."""

        def patched(row: Sending):
            report = reporting(row)

            def told(done: int) -> Halt:
                if done and not Sending.objects.get(pk=row.pk).wish:
                    self.assertEqual(self.told(row, "pause")["state"], "running")
                return report(done)

            return told

        return patched


class Refused(Machines):
    def test_nobody_answers(self):
        row = self.asked()
        with mock.patch.dict("os.environ", {"HAKOBU_STAND_INS": "1 1 1"}), mock.patch.object(queue, "BETWEEN_S", 0.01):
            queue.carry_out(row.pk)
        row.refresh_from_db()
        self.assertEqual(row.state, "stopped")
        self.assertIn("No machine answers", row.problem)
        self.told(row, "go-on")
        queue.carry_out(row.pk)
        self.hold(row)

    def test_garbage_an_empty_sheet_and_another_program(self):
        for faults, said in (({"garbage": True}, "is no plotter"), ({"garbage": False, "no_sheet": True}, "No sheet")):
            self.stand_in.ask(**faults)
            row = self.asked(again=True)
            queue.carry_out(row.pk)
            row.refresh_from_db()
            self.assertEqual(row.state, "stopped")
            self.assertIn(said, row.problem)
        self.stand_in.ask(no_sheet=False)
        line = self.stand_in.line()
        self.stand_in.until(lambda state: state["connected"])
        row = self.asked(again=True)
        queue.carry_out(row.pk)
        row.refresh_from_db()
        line.close()
        self.assertIn("Another program is sending", row.problem)
        self.assertEqual(self.stand_in.ask(strokes=True)["strokes"], [])

    def test_work_beyond_the_reach_and_a_machine_without_an_address(self):
        self.job = self.revise(self.job, settings={"machine": "desk-cutter"}).json()
        self.refused(self.ask(), 400, "bad-request", "give it an address")
        wide = TWO.replace(b'width="120mm"', b'width="1200mm"').replace(b'height="80mm"', b'height="800mm"')
        job = self.upload(wide, "wide.svg").json()
        self.job = self.revise(job, settings={"machine": "roll-cutter"}).json()
        self.refused(self.ask(), 422, "cannot-do", "beyond the reach")

    def test_addresses(self):
        for address in ("tcp:127.0.0.1:9100", "tcp:10.1.2.3:1", "serial:/dev/ttyUSB0,19200", "folder:cutter"):
            addresses.parts_of(address)
        for address in ("tcp:8.8.8.8:80", "tcp:example.org:80", "serial:/etc/passwd", "folder:../x", "http://x", ""):
            with self.assertRaises(addresses.BadRequest):
                addresses.parts_of(address)


class ByGcode(Sent):
    machine, kind = "laser-bed", "gcode"
    slow = 12.0

    def test_a_file_is_sent_and_its_row_says_so(self):
        row = self.asked()
        queue.carry_out(row.pk)
        row.refresh_from_db()
        self.assertEqual((row.state, row.done), ("done", 3))
        self.hold(row)

    def test_the_same_file_is_sent_again_only_when_that_is_wanted(self):
        queue.carry_out(self.asked().pk)
        self.refused(self.ask(), 409, "changed-meanwhile", "was sent to the laser before")
