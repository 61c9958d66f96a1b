package app.morvet.journey;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Response;
import com.microsoft.playwright.options.AriaRole;
import java.util.Locale;

/** Cases as a person sees them: the list, and beside it the dossier of the one that is open. */
record CasePage(Page page) {
    /** Rows of the list in which some words stand. */
    Locator row(String words) {
        return page.locator(".row-link").filter(new Locator.FilterOptions().setHasText(words));
    }

    Locator firstRow() {
        return page.locator(".row-link").first();
    }

    void open(String words) {
        row(words).click();
    }

    Locator heading() {
        return page.getByLabel("Case", new Page.GetByLabelOptions().setExact(true))
                .getByRole(AriaRole.HEADING, new Locator.GetByRoleOptions().setLevel(1));
    }

    /** What the title says beside the heading: how it stands, and who has it. */
    Locator title() {
        return page.locator("#dossier-title");
    }

    Locator facts() {
        return page.locator("#dossier-facts");
    }

    Locator log() {
        return page.locator(".log");
    }

    /** One of the actions on top. */
    Locator action(String name) {
        return page.getByRole(AriaRole.TOOLBAR, new Page.GetByRoleOptions().setName("Actions"))
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(name));
    }

    /** Sends the form that an action has opened, and gives what is answered. */
    Response tried(String action) {
        var button = page.locator(".panel[data-panel=" + action.toLowerCase(Locale.ROOT) + "]")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(action));
        return page.waitForResponse(it -> "POST".equals(it.request().method()), button::click);
    }

    /** The same, where it is to be done. */
    void send(String action) {
        var answer = tried(action);
        assertThat(answer.ok())
                .as("%s is answered with %d: %s", action, answer.status(), answer.text())
                .isTrue();
    }

    Locator note() {
        return page.getByLabel("Note in the log of the case");
    }

    /** The button that hands it off, once its form is open. */
    Locator handOff() {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Hand off through Service desk"));
    }

    /** The number of its ticket. */
    String ticket() {
        return page.locator("#dossier-facts a.mono").first().textContent();
    }

    Locator nowLine() {
        return page.locator("#nowline");
    }
}
