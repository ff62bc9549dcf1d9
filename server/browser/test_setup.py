"""The first minutes: kernels are still being compiled, and every screen says how far that is."""

from playwright.sync_api import expect

from .case import BrowserCase


class Setup(BrowserCase):
    def test_says_how_far_it_is_and_goes_on_by_itself(self):
        page, state = self.page, {"ready": True, "done": 0, "of": 0}
        page.route("**/api/setup", lambda route: route.fulfill(json=dict(state)))
        self.begin("lantern-frame.svg")
        state.update(ready=False, done=31, of=77)
        page.reload()
        notice = page.get_by_role("status").filter(has_text="Hakobu is still being set up")
        expect(notice).to_contain_text("31 of 77 parts are compiled")
        expect(page.locator(".work")).to_have_count(0)
        expect(page.get_by_role("link", name="To the list of jobs")).to_be_visible()
        state["done"] = 76
        expect(notice).to_contain_text("76 of 77 parts are compiled")
        state["ready"] = True
        expect(page.locator(".work")).to_be_visible()
        expect(notice).to_have_count(0)

    def test_a_build_that_ended_is_not_waited_for(self):
        self.page.route("**/api/setup", lambda route: route.fulfill(json={"ready": False, "done": 0, "of": 0}))
        self.page.goto(self.live_server_url)
        expect(self.page.get_by_text("run ./start again")).to_be_visible()
