package app.morvet.core.shift;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;

/** What the next shift is given follows from the shift. */
class HandoverDraftTest {
    @Test
    void aShiftIsDraftedInItsParts() {
        var draft = new HandoverDraft(
                "22:00",
                "05:52",
                List.of(
                        new HandoverDraft.Open(7, "critical", "Bank file likely 07:03", "Pia Lumme has it"),
                        new HandoverDraft.Open(9, "warning", "24 failed on a_b *now*", "nobody has it")),
                List.of(new HandoverDraft.Watched(4, "Disk fills", "quiet until 08:00")),
                List.of(new HandoverDraft.Coming("06:30", "Bank file is due")),
                List.of("Harbour calls back\n  before **seven**"));
        assertThat(draft.markdown())
                .isEqualTo(
                        """
                        # Handover, 22:00 to 05:52

                        ## Still open
                        - **critical** Bank file likely 07:03 (case 7): Pia Lumme has it
                        - **warning** 24 failed on a\\_b \\*now\\* (case 9): nobody has it

                        ## Watched
                        - Disk fills (case 4): quiet until 08:00

                        ## Coming
                        - 06:30 Bank file is due

                        ## To know
                        - Harbour calls back before **seven**
                        """);
    }

    @Test
    void aQuietShiftSaysThatItWas() {
        assertThat(new HandoverDraft("06:00", "14:00", List.of(), List.of(), List.of(), List.of()).markdown())
                .contains(
                        "Nothing is open.",
                        "Nothing is watched.",
                        "Nothing is known to come.",
                        "Nobody has noted anything.");
    }
}
