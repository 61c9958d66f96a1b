package app.morvet.core.messages;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Names that stand without quotes, and what else is one of many: taken out where a word before them says so, and only there. */
class FingerprintNamesTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '´',
            value = {
                "Passenger Aino Salmi is twice on the list | Passenger Olli-Pekka Rand is twice on the list",
                "Passagier Müller, Jürgen steht nicht da | Passagier Öhman, Åsa steht nicht da",
                "Matkustaja Virtanen Kalle puuttuu | Matkustaja Laine Maija puuttuu",
                "partner Ostrevia Freight Oy has no limit | partner Nordvik Cargo AB has no limit",
                "partner Ostrevia is silent | partner \"Nordvik Cargo\" is silent",
                "vessel M/S Aurelia is not in port | vessel Sea Lantern is not in port",
                "vessel AURELIA is not in port | vessel Nordlys is not in port",
                "list of the port of Trevik is empty | list of the port of Nynas is empty",
                "no cabin for passenger Aino Salmi | no cabin for passenger Olli Rand",
                "Employee 20417 (Korpi, Jari) works too long | Employee 11982 (Holm, Anna) works too long",
                "printer at gate North is silent | printer at gate South is silent",
                "quota of user ftp_ostrevia is used up | quota of user ftp_nordvik is used up",
                "user \"svc_hub\" may not read | user \"svc_crew\" may not read",
                "User j.korpi is locked | User a.holm is locked",
                "login failed for user nordvik | login failed for user ostrevia_in",
                "paused by mirja.laine until four | paused by olli.rand until four",
                "no ticket for svc_hub, denied | no ticket for svc_crew, denied",
                "cannot log on as SUNDRAVA\\svc_hub now | cannot log on as SUNDRAVA\\jkorpi now",
                "node hub-west is ahead | node hub-east is ahead",
                "client hub-prod has no token | client crew-test has no token",
                "lease was lost to hub-b | lease was lost to hub-c",
                "falling back to region [N] | falling back to region [W]",
                "deck B is full | deck C is full",
                "vehicle class C2 has no tariff | vehicle class B1 has no tariff",
                "Value X9 is not allowed | Value Q2 is not allowed",
                "denied for role PURSER | denied for role CADET",
                "discount code WINTER26 has ended | discount code SUMMER25 has ended",
                "no rate for currency NOK | no rate for currency DKK",
                "KeyError: 'SEK' | KeyError: 'NOK'",
                "No enum constant fares.FareClass.ECO2 | No enum constant fares.FareClass.BUSINESS",
                "K. Laine is on two ships | M.-L. Virtanen is on two ships",
                "role \"hub_rw\" is not there | role \"crew_ro\" is not there",
                "type id 'FerryCar' is not there | type id 'Bus2' is not there",
                "no answer from host: crew-2 | no answer from host: 10.0.0.7",
                "gap on TRV>NYN | gap on HEL>TRV",
                "key fares:TRV-NYN:2026-12-24 is empty | key fares:HEL-TRV:2027-01-02 is empty",
                "call 2231/TRV is late | call 2307/NYN is late",
                "tax card of 010190-123A has ended | tax card of 311299-987K has ended",
                "No space left on /dev/sdb1 | No space left on /dev/sdc2",
                "cannot open /dev/ttyS0 | cannot open /dev/ttyUSB1",
                "\\\\fs01\\spool\\out is away | \\\\fs02\\spool\\in is away",
                "cannot delete C:\\Spool\\a now | cannot delete D:\\Spool\\a now",
                "/in/manifest_20261130.csv is gone | /in/bookings_20261201.csv is gone",
                "cannot move MF_1.xml | cannot move MF_20977.xml",
                "cannot open /in/41.tmp now | cannot open /in/x7.tmp now",
                "sdb1 was removed | sdc2 was removed",
                "attachment 'crew_list.pdf' is missing | attachment 'visa copy.pdf' is missing",
                "file is in windows-1252, not text | file is in iso-8859-1, not text",
                "Locale de_AX is not there | Locale sv_FI is not there",
                "zone Europe/Mariehamn is not known | zone America/St_Johns is not known",
                "deadline was Mon Nov 30 02:14:07 EET 2026 | deadline was Tue Dec 01 12:00:00 EET 2026",
                "connect ECONNREFUSED ::1:8080 | connect ECONNREFUSED 127.0.0.1:8080",
                "member loader-1-8f7e6d5c left | member loader-2-0a1b2c3d left",
                "/voyage[@port='FIHEL']/cargo | /voyage[@port='EETLL']/cargo",
                "level=error msg=no tenant=crew limit=3 | level=error msg=no tenant=hub limit=9",
                "error (device sdb1) at 7 | error (device sdc1) at 9",
                "aborted: 14 rows are wrong | aborted: 1 row is wrong",
                "[4711:0x5f1c9b2e0000] heap is full | [12:0x7f00aa110000] heap is full",
                "rates -------^ | rates ---^",
                "not found | Not found.",
                "{\"message\":\"it is full\"} | {\"message\":\"it is full.\"}",
                "lock timed out | lock timed out (session 98)",
                "it is no tree | it is no tree (line 14, column 9).",
                "Failing row contains (1, null, TRV) now | Failing row contains (27, 9, NYN) now",
                "insert values (1, 'x') failed | insert values (27, 'y z', null) failed",
                "serial 4F:12:9A has ended | serial 00:AA:BB has ended",
                "weighs 7.2 t of 9 t | weighs 12 400 kg of 11 900 kg",
                "1 row is refused | 12 rows are refused",
                "1 late addition refused | 3 late additions refused",
                "in 1 Tag | in 6 Tagen",
                "nach 1 Versuch ab | nach 3 Versuchen ab",
                "1 ligne manque | 3 lignes manque",
                "no fare for 1 child | no fare for 2 children"
            })
    void whoAndWhatItWasMakesNoDifference(String one, String other) {
        assertThat(Fingerprint.of(one).key())
                .as(Fingerprint.of(one).skeleton() + " | "
                        + Fingerprint.of(other).skeleton())
                .isEqualTo(Fingerprint.of(other).key());
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '´',
            value = {
                "Customer Blocked | Customer Unknown",
                "Customer Address missing in row 4 | Customer Order missing in row 4",
                "Vessel Traffic Service is away | Vessel Schedule Service is away",
                "partner EDI gateway is away | partner API gateway is away",
                "no answer from Payroll | no answer from Customs",
                "user FareService.load failed | user CrewService.load failed",
                "user account is locked | user session is locked",
                "caused by pool.size | caused by pool.age",
                "tool gave up (kod 51) | tool gave up (kod 54)",
                "tool gave up (code 51) | tool gave up (code 54)",
                "tool gave up (mode read) | tool gave up (mode write)",
                "CONTRL action code 4 | CONTRL action code 8",
                "bind error, data 52e, v2580 | bind error, data 775, v2580",
                "FTP reply 550 for it | FTP reply 552 for it",
                "failure code 0x18 | failure code 0x25",
                "Työ päättyi virheeseen 17 | Työ päättyi virheeseen 23",
                "Fehler 1045 beim Lesen | Fehler 1146 beim Lesen",
                "encoder 3 returned E07 | encoder 3 returned E12",
                "printer answered \"PAPER OUT\" | printer answered \"HEAD OPEN\"",
                "POST /orders/17 422 in 88 ms | POST /orders/17 500 in 3 ms",
                "\"GET /fares?a=1 HTTP/1.1\" 503 197 | \"GET /fares?a=1 HTTP/1.1\" 500 197",
                "QM not available, reason 2059 | QM not available, reason 2161",
                "alert number 40 from 10.0.0.7 | alert number 48 from 10.0.0.7",
                "vendor error QX-10432: no | vendor error QX-10433: no",
                "java.net.BindException: no | 10.0.0.7.BindException: no",
                "'x' is not a valid value for 'date' | 'x' is not a valid value for 'integer'",
                "Entity 'Voyage' was changed | Entity 'Cabin' was changed",
                "step 'enrich' timed out | step 'convert' timed out",
                "ended in step STEP030, code 16 | ended in step STEP040, code 16",
                "it failed (timeout 30 s) | it failed (refused 30 s)",
                "LDG0911N deadlock | LDG0803N deadlock",
                "sorted by fare.date | sorted by fare.class",
                "denied for user creation | denied for user deletion",
                "null into \"PORT\".\"VOYAGE\".\"ETD\" | null into \"PORT\".\"VOYAGE\".\"ETA\"",
                "no text for key 'fare.child' in it | no text for key 'fare.adult' in it",
                "server says: 503 | server says: 404",
                "//field[@name='grossWeight'] | //field[@name='netWeight']",
                "level=error component=ingest err=no a=1 | level=error component=push err=no a=1"
            })
    void whatTellsCausesApartStays(String one, String other) {
        assertThat(Fingerprint.of(one).key())
                .as(Fingerprint.of(one).skeleton())
                .isNotEqualTo(Fingerprint.of(other).key());
    }

    /** The lists of words stand over several lines. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "proxy: 407 Proxy Authentication Required",
                "proxy: 413 Request Entity Too Large",
                "proxy: 421 Misdirected Request",
                "proxy: 307 Temporary Redirect",
                "proxy: 424 Failed Dependency"
            })
    void aStatusStaysWithItsPhrase(String text) {
        assertThat(Fingerprint.of(text).skeleton()).isEqualTo(text);
    }
}
