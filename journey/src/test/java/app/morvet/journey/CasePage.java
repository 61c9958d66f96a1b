package app.morvet.journey;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;

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

    /** Sends the form that an action has opened. */
    void send(String action) {
        page.locator(".panel[data-panel=" + action.toLowerCase(java.util.Locale.ROOT) + "]")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(action))
                .click();
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
