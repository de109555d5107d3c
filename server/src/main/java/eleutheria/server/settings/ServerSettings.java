package eleutheria.server.settings;

import java.net.URI;
import java.time.Duration;
import java.time.ZoneId;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * What the environment sets, each as {@code ELEUTHERIA_…}.
 *
 * @param organisation the organisation's name
 * @param zone the zone in which its days are counted
 * @param locale how dates and numbers are written (BCP 47, such as {@code en-GB}); empty for as
 *     each person's browser says
 * @param baseAddress where people reach this server; links in mails begin with it
 * @param secret at least 32 characters, from which the keys are derived that encrypt what must be
 *     kept secret in the database
 * @param mailFrom the sender of mails
 * @param takeBack how long a decision on a request can be taken back; what follows from it begins
 *     after that
 * @param useKept how long events of use and of sign-in are kept that name somebody; then only
 *     counts are left
 * @param sessionLongest after which a session ends even while it is used
 * @param deskIdle after which the desk asks for the password again if nothing was done there
 * @param deskLongest after which the desk asks for the password again in any case
 * @param stopOnDifference whether nothing is written while a check of the ledger stands that found
 *     a difference
 * @param headsFile where the signed head of the ledger is written to every day; empty for nowhere
 * @param headsMail whom it is sent to every day; empty for nobody
 * @param egressHosts hosts that the server may fetch from when an administrator tries an address;
 *     one that begins with a dot stands for all below it; none by default
 * @param egressInside whether they may be addresses on the internal network
 * @param mailroom where the demo's mailroom shows mails; null outside the demo
 */
@ConfigurationProperties("eleutheria")
public record ServerSettings(
    String organisation,
    ZoneId zone,
    String locale,
    URI baseAddress,
    String secret,
    String mailFrom,
    Duration takeBack,
    Duration useKept,
    Duration sessionLongest,
    Duration deskIdle,
    Duration deskLongest,
    boolean stopOnDifference,
    String headsFile,
    String headsMail,
    List<String> egressHosts,
    boolean egressInside,
    @Nullable URI mailroom) {

  public boolean secure() {
    return "https".equals(baseAddress.getScheme());
  }
}
