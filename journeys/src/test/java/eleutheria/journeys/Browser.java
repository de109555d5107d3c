package eleutheria.journeys;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.demo.LoadDemo;
import java.io.File;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.OutputType;
import org.openqa.selenium.StaleElementReferenceException;
import org.openqa.selenium.WebDriver;
import org.openqa.selenium.WebDriverException;
import org.openqa.selenium.WebElement;
import org.openqa.selenium.chrome.ChromeDriver;
import org.openqa.selenium.chrome.ChromeDriverService;
import org.openqa.selenium.chrome.ChromeOptions;
import org.openqa.selenium.interactions.Actions;
import org.openqa.selenium.interactions.Pause;
import org.openqa.selenium.interactions.PointerInput;
import org.openqa.selenium.interactions.Sequence;
import org.openqa.selenium.support.ui.FluentWait;
import org.openqa.selenium.support.ui.Select;
import org.openqa.selenium.support.ui.WebDriverWait;
import org.springframework.util.FileSystemUtils;

/** A headless browser, used by what a person sees: names, labels, texts. */
final class Browser implements AutoCloseable {
  private static final Duration PATIENCE = Duration.ofSeconds(20);
  private static final Duration OFTEN = Duration.ofMillis(120);

  private static final String LAYOUT = read("/every-view.js");
  private static final String AXE = read("/axe.min.js");

  /** What runs already and nobody uses: starting one, and its first page, take seconds. */
  private static final Deque<Started> IDLE = new ArrayDeque<>();

  /** Chromium with its driver, where it puts what is downloaded, and what it keeps for itself. */
  private record Started(ChromeDriver driver, Path downloads, @Nullable Path own) {
    void quit() {
      driver.quit();
      if (own != null) {
        FileSystemUtils.deleteRecursively(own.toFile());
      }
    }
  }

  static {
    Runtime.getRuntime().addShutdownHook(new Thread(() -> IDLE.forEach(Started::quit)));
  }

  private final Stage stage = Stage.get();
  private final Started started;
  private final Path downloads;
  private final ChromeDriver driver;
  private String base = stage.base;

  Browser() {
    this(1280, 800);
  }

  Browser(int width, int height) {
    started = IDLE.isEmpty() ? start() : IDLE.pop();
    driver = started.driver;
    downloads = started.downloads;
    size(width, height);
    dark(false);
  }

  /**
   * Where what a browser keeps for a moment never goes to a disk, if the machine has such a place.
   */
  private static final Path MEMORY = Path.of("/dev/shm");

  private static final long ENOUGH = 1L << 30;

  private static Started start() {
    Path downloads;
    Path own = null;
    ChromeOptions options = new ChromeOptions();
    try {
      downloads = Files.createTempDirectory("downloads");
      if (Files.isDirectory(MEMORY) && MEMORY.toFile().getUsableSpace() > ENOUGH) {
        own = Files.createTempDirectory(MEMORY, "browser");
        options.addArguments("--user-data-dir=" + own);
      } else {
        options.addArguments("--disable-dev-shm-usage");
      }
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
    options.setBinary("/usr/bin/chromium");
    options.addArguments(
        "--headless=new",
        "--no-sandbox",
        "--hide-scrollbars",
        "--force-device-scale-factor=1",
        "--lang=en-GB",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--no-first-run",
        // A third less of the processor, which the journeys use up.
        "--disable-gpu",
        "--force-prefers-reduced-motion",
        "--disable-extensions",
        "--disable-default-apps",
        "--disable-features=Translate,OptimizationHints,MediaRouter,PaintHolding");
    options.setExperimentalOption(
        "prefs",
        Map.of(
            "download.default_directory",
            downloads.toString(),
            "intl.accept_languages",
            "en-GB",
            // One browser takes many files here, and nobody is there to allow the second.
            "profile.default_content_setting_values.automatic_downloads",
            1));
    return new Started(
        new ChromeDriver(
            new ChromeDriverService.Builder()
                .usingDriverExecutable(new File("/usr/bin/chromedriver"))
                .build(),
            options),
        downloads,
        own);
  }

  /** Another way to the same server. */
  Browser at(String address) {
    base = address;
    return this;
  }

  int width() {
    return ((Number) script("return window.innerWidth")).intValue();
  }

  void size(int width, int height) {
    driver.executeCdpCommand(
        "Emulation.setDeviceMetricsOverride",
        Map.of("width", width, "height", height, "deviceScaleFactor", 1, "mobile", width < 600));
  }

  void dark(boolean dark) {
    driver.executeCdpCommand(
        "Emulation.setEmulatedMedia",
        Map.of(
            "features",
            List.of(
                // Nothing is on its way: no colour that is looked at, no dialog that is pressed on.
                Map.of("name", "prefers-reduced-motion", "value", "reduce"),
                Map.of("name", "prefers-color-scheme", "value", dark ? "dark" : "light"))));
  }

  Browser open(String path) {
    driver.get(path.startsWith("http") ? path : base + path);
    return this;
  }

  Browser signIn(String userName) {
    return signIn(userName, LoadDemo.PASSWORD);
  }

  Browser signIn(String userName, String password) {
    enter(userName, password);
    sees("Hello, ");
    return this;
  }

  /** Fills in the sign-in page and presses, whatever comes of it. */
  void enter(String userName, String password) {
    open("/sign-in");
    type("Sign-in name or email address", userName);
    type("Password", password);
    press("Sign in");
  }

  // ---- finding, always with patience

  private FluentWait<WebDriver> patiently() {
    return new WebDriverWait(driver, PATIENCE).pollingEvery(OFTEN);
  }

  WebElement find(String xpath) {
    return patiently()
        .ignoring(StaleElementReferenceException.class)
        .withMessage(() -> "nothing at " + xpath + "; the page says:\n" + told())
        .until(
            d ->
                d.findElements(By.xpath(xpath)).stream()
                    .filter(WebElement::isDisplayed)
                    .findFirst()
                    .orElse(null));
  }

  /** What stands on the page to be read; asked for by a script, since the driver reads slowly. */
  String text() {
    return String.valueOf(driver.executeScript("return document.body.innerText"));
  }

  /** The page's text without what may be chosen, for messages. */
  private String told() {
    return Stage.get().stuck()
        + driver.executeScript(
            "const over = document.querySelector('[role=dialog]');"
                + "const body = (over || document.body).cloneNode(true);"
                + "body.querySelectorAll('select').forEach(s => s.remove());"
                + "const typed = [...(over || document.body).querySelectorAll('input')]"
                + ".map(i => i.type === 'password' ? i.value.length + ' signs' : i.value);"
                + "return body.innerText.slice(0, 1500) + '\\nfields: ' + typed.join(' | ');");
  }

  String address() {
    return driver.getCurrentUrl().replace(base, "");
  }

  Browser sees(String text) {
    patiently()
        .ignoring(StaleElementReferenceException.class)
        .withMessage(() -> "“" + text + "” is not on the page:\n" + told())
        .until(d -> text().contains(text));
    return this;
  }

  void seesNot(String text) {
    patiently()
        .ignoring(StaleElementReferenceException.class)
        .withMessage(() -> "“" + text + "” is still on the page:\n" + told())
        .until(d -> !text().contains(text));
  }

  /** Does something over the same interface that the pages use, and gives the result. */
  String made(String method, String path, String json) {
    Object answer =
        driver.executeAsyncScript(
            """
            const [method, path, body, done] = arguments;
            const token = document.cookie.split('; ').find(c => c.startsWith('XSRF-TOKEN='));
            fetch(path, {method, body: body || undefined, headers: {
              'Content-Type': 'application/json',
              'X-XSRF-TOKEN': decodeURIComponent(token.slice(11))}})
              .then(async r => done(r.ok ? await r.json() : {wrong: await r.text()}));
            """,
            method,
            path,
            json);
    Map<?, ?> told = (Map<?, ?>) answer;
    assertThat(told.get("wrong")).as(method + " " + path).isNull();
    return String.valueOf(told.get("result"));
  }

  /** Adds an open application with one entitlement, as whoever is signed in here. */
  String app(String name, String owner) {
    String id =
        made(
            "POST",
            "/api/apps",
            """
            {"profile": {"name": "%s", "line": "", "picture": "key", "hue": "tide",
              "sensitivity": "LOW", "contact": "", "nicknames": []},
             "address": "https://a.ternsound.example/", "owners": ["%s"],
             "entitlements": [{"name": "User", "line": "", "sensitivity": "LOW",
               "requestable": true}]}"""
                .formatted(name, idOf(owner)));
    made("PUT", "/api/apps/" + id + "/state", "{\"base\": \"PROPOSED\", \"state\": \"OPEN\"}");
    return id;
  }

  /** The id of an application's only role. */
  String role(String app) {
    return String.valueOf(asked("/api/apps/" + app, "app => app.entitlements[0].id"));
  }

  String idOf(String userName) {
    return String.valueOf(
        driver.executeAsyncScript(
            "const done = arguments[1];"
                + "fetch('/api/people?find=' + arguments[0]).then(r => r.json())"
                + ".then(page => done(page.lines[0].id));",
            userName));
  }

  /** What a function makes of an answer. */
  Object asked(String path, String function) {
    return driver.executeAsyncScript(
        "const done = arguments[1];"
            + "fetch(arguments[0]).then(r => r.json()).then("
            + function
            + ").then(done);",
        path);
  }

  /** The browser goes to an address, whether or not anything answers there. */
  void leadsTo(String address) {
    patiently()
        .withMessage(() -> "is at " + driver.getCurrentUrl())
        .until(d -> address.equals(d.getCurrentUrl()));
  }

  /** What a script gives later, by the function that is its last argument. */
  Object later(String text, Object... arguments) {
    driver.manage().timeouts().scriptTimeout(Duration.ofSeconds(180));
    return driver.executeAsyncScript(text, arguments);
  }

  Object script(String text, Object... arguments) {
    return driver.executeScript(text, arguments);
  }

  void heading(String text) {
    find("//*[self::h1 or self::h2][normalize-space()=" + quoted(text) + "]");
  }

  /** Presses a button by its name. */
  void press(String name) {
    String named =
        "[normalize-space()="
            + quoted(name)
            + " or @aria-label="
            + quoted(name)
            + " or starts-with(normalize-space(), "
            + quoted(name)
            + ")]";
    click("//button" + named + "[not(@disabled)]");
  }

  /** Takes what a field has found, by its name. */
  void take(String name) {
    click("//*[@role='option'][.//b[.=" + quoted(name) + "]]");
  }

  void follow(String name) {
    click("//a[normalize-space()=" + quoted(name) + "]");
  }

  void click(String xpath) {
    patiently()
        .ignoring(StaleElementReferenceException.class)
        .ignoring(org.openqa.selenium.ElementClickInterceptedException.class)
        .withMessage(() -> "cannot press " + xpath + "; the page says:\n" + told())
        .until(
            d -> {
              WebElement found = find(xpath);
              // As the focus does: out from under the tray, which stays at the foot.
              driver.executeScript("arguments[0].scrollIntoView({block: 'nearest'})", found);
              found.click();
              return true;
            });
  }

  WebElement field(String label) {
    return find(
        "//*[(self::input or self::textarea or self::select) and (@aria-label="
            + quoted(label)
            + " or starts-with(@aria-label, "
            + quoted(label + " (")
            + ")"
            + " or @id=//label[normalize-space()="
            + quoted(label)
            + "]/@for)]");
  }

  void type(String label, String text) {
    WebElement field = field(label);
    field.sendKeys(Keys.chord(Keys.CONTROL, "a"), Keys.DELETE);
    field.sendKeys(text);
  }

  /** Types a day, as ISO 8601: that is read in every language. */
  void day(String label, String day) {
    type(label, day);
  }

  void choose(String label, String option) {
    new Select(field(label)).selectByVisibleText(option);
  }

  /** Ticks a box or takes a choice by its label. */
  void tick(String label) {
    click("//label[starts-with(normalize-space(), " + quoted(label) + ")]");
  }

  /** Drags one thing onto another with the mouse, as a hand does: off, over, and down. */
  void drag(String from, String onto) {
    WebElement taken = find(from);
    driver.executeScript("arguments[0].scrollIntoView({block: 'center'})", taken);
    Actions hand = new Actions(driver, Duration.ofMillis(60));
    hand.moveToElement(taken).clickAndHold().moveByOffset(12, 4).moveByOffset(12, 4).perform();
    // What is carried leaves its place, so that the others close up.
    new Actions(driver, Duration.ofMillis(60))
        .moveToElement(find(onto))
        .moveByOffset(3, 2)
        .release()
        .perform();
  }

  /** Carries one thing onto another with a finger, which rests before it moves. */
  void carry(String from, String onto) {
    WebElement taken = find(from);
    driver.executeScript("arguments[0].scrollIntoView({block: 'center'})", taken);
    PointerInput finger = new PointerInput(PointerInput.Kind.TOUCH, "finger");
    Sequence hand = new Sequence(finger, 0);
    Duration quick = Duration.ofMillis(80);
    PointerInput.Origin start = PointerInput.Origin.fromElement(taken);
    PointerInput.Origin end = PointerInput.Origin.fromElement(find(onto));
    hand.addAction(finger.createPointerMove(quick, start, 0, 0));
    hand.addAction(finger.createPointerDown(0));
    hand.addAction(new Pause(finger, Duration.ofMillis(400)));
    // What is carried leaves its place, so that only the pointer itself is there to go on from.
    hand.addAction(finger.createPointerMove(quick, PointerInput.Origin.pointer(), 10, 4));
    // A finger is slower than a frame.
    Pause rest = new Pause(finger, Duration.ofMillis(250));
    hand.addAction(rest);
    hand.addAction(finger.createPointerMove(quick, end, 0, 0));
    hand.addAction(rest);
    hand.addAction(finger.createPointerMove(quick, end, 4, 2));
    hand.addAction(rest);
    hand.addAction(finger.createPointerUp(0));
    driver.perform(List.of(hand));
  }

  void keys(CharSequence... keys) {
    driver.switchTo().activeElement().sendKeys(keys);
  }

  /** Waits until something is so. */
  void until(String what, java.util.function.BooleanSupplier so) {
    patiently()
        .ignoring(StaleElementReferenceException.class)
        .withMessage(() -> "not so: " + what + "; the page says:\n" + told())
        .until(d -> so.getAsBoolean());
  }

  /** What is on whatever has the focus. */
  String focused() {
    return driver.switchTo().activeElement().getText();
  }

  /**
   * Goes on by Tab until something of this name has the focus, as somebody does who has no mouse.
   */
  void reach(String name) {
    for (int i = 0; i < 150; i++) {
      try {
        if (driver.switchTo().activeElement().getAccessibleName().startsWith(name)) {
          return;
        }
        keys(Keys.TAB);
      } catch (StaleElementReferenceException e) {
        // The page has drawn it anew meanwhile; the next look finds what has the focus now.
        continue;
      }
    }
    throw new AssertionError("Tab does not come to " + name + "; the page says:\n" + told());
  }

  /** Whether a heading has the focus. */
  boolean atHeading() {
    return driver.switchTo().activeElement().getTagName().matches("h[1-3]");
  }

  /** What a screen reader was last told without being asked. */
  String said() {
    return driver.findElement(By.cssSelector("[data-said]")).getDomProperty("textContent");
  }

  /** An attribute of whatever has the focus. */
  String attribute(String name) {
    return String.valueOf(driver.switchTo().activeElement().getDomAttribute(name));
  }

  /** What stands in a field. */
  String value(String label) {
    return String.valueOf(field(label).getDomProperty("value"));
  }

  /** Gives a file to the field that takes files. */
  void file(Path file) {
    driver.findElement(By.cssSelector("input[type=file]")).sendKeys(file.toString());
  }

  /** Waits for a download whose name ends so. */
  Path download(String end) {
    return patiently()
        .withMessage("no download " + end)
        .until(
            d -> {
              File[] found = downloads.toFile().listFiles((dir, name) -> name.endsWith(end));
              return found == null || found.length == 0 ? null : found[0].toPath();
            });
  }

  /** axe finds nothing. */
  void axe() {
    axe(
        "",
        """
        {runOnly: {type: 'tag', values:
          ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']},
         // It leaves this out by itself.
         rules: {'label-content-name-mismatch': {enabled: true}}}""");
  }

  /** axe finds nothing in dark, where only the colours are others. */
  void axeInDark() {
    dark(true);
    axe(" in dark", "{runOnly: {type: 'rule', values: ['color-contrast']}}");
    dark(false);
  }

  /** Only what is wrong comes over the line, and axe itself once for each page that is loaded. */
  private void axe(String where, String options) {
    if (!Boolean.TRUE.equals(script("return window.axe !== undefined"))) {
      script(AXE);
    }
    Object found =
        later(
            """
            const done = arguments[0];
            // What lies under a docked bar just now is reached by scrolling: it counts with its
            // whole size.
            const bars = document.querySelectorAll('.tray, .portal > .band');
            bars.forEach(e => e.style.position = 'static');
            axe.run(document, {...%s, resultTypes: ['violations']})
              .then(result => result.violations.map(rule => rule.id + ': ' + rule.help + ' '
                + rule.nodes.slice(0, 3).map(n => n.html + ' ' + n.failureSummary).join('; ')))
              .catch(error => ['axe itself: ' + error])
              .then(wrong => {
                bars.forEach(e => e.style.position = '');
                done(wrong);
              });
            """
                .formatted(options));
    assertThat((List<?>) found).as(address() + where).isEmpty();
  }

  /** No sideways scrolling of the page as a whole. */
  void fits() {
    Object width =
        driver.executeScript(
            "return document.documentElement.scrollWidth - document.documentElement.clientWidth");
    assertThat(((Number) width).intValue()).as("too wide by").isLessThanOrEqualTo(0);
  }

  /** What is wrong with how the page is laid out, a line each; see every-view.js. */
  List<String> layout() {
    Object found = driver.executeScript(LAYOUT);
    return ((List<?>) found).stream().map(String::valueOf).toList();
  }

  String title() {
    return driver.getTitle();
  }

  /** Waits until nothing on the page is on its way any more. */
  void comes() {
    until(
        "everything has come",
        () ->
            Boolean.TRUE.equals(
                script(
                    "return document.querySelector('h1') !== null"
                        + " && document.querySelector('[aria-busy=true], .skeleton') === null")));
  }

  private static String read(String resource) {
    try (var in = Browser.class.getResourceAsStream(resource)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
  }

  /** What the page shows first, whatever was gone to on it. */
  void picture(Path file) throws IOException {
    driver.executeScript("document.activeElement?.blur(); window.scrollTo(0, 0)");
    Files.write(file, driver.getScreenshotAs(OutputType.BYTES));
  }

  private static String quoted(String text) {
    return text.contains("'") ? "\"" + text + "\"" : "'" + text + "'";
  }

  /** Forgets everything but the files of the pages, which are the same for everybody. */
  @Override
  public void close() {
    try {
      driver.get("about:blank");
      for (String origin : new TreeSet<>(List.of(stage.base, base))) {
        driver.executeCdpCommand(
            "Storage.clearDataForOrigin",
            Map.of(
                "origin",
                origin,
                "storageTypes",
                "cookies,local_storage,indexeddb,service_workers,cache_storage"));
      }
      driver.executeCdpCommand("Network.clearBrowserCookies", Map.of());
      File[] files = downloads.toFile().listFiles();
      for (File file : files == null ? new File[0] : files) {
        Files.delete(file.toPath());
      }
      IDLE.push(started);
    } catch (WebDriverException | IOException e) {
      // One that cannot be cleared is not used again.
      started.quit();
    }
  }
}
