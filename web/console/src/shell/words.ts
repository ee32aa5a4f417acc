import { session } from './session.ts';

/** The words of the business application's frame, in its languages. What belongs to the application itself comes from the service. */
const tables = {
  en: {
    search: 'Search {0}', searchAll: 'Search everything', make: 'New {0}', nothingHas: 'Nothing has “{0}” in it.', nothingFits: 'Nothing fits these filters.', noneYet: 'There are no {0} yet.', count: '{0} records', countOne: '1 record', countMore: 'More than {0} records',
    filters: 'Filters', clearFilters: 'Clear filters', from: '{0} from', to: '{0} to', any: 'Any', views: 'Views', saveView: 'Save this view', viewName: 'Name of the view', removeView: 'Remove the view {0}', loading: 'Loading…',
    backToList: 'Back to the list', notSaved: 'Not saved yet', cancel: 'Cancel', save: 'Save', saveClose: 'Save and close', saved: 'Saved.', edit: 'Edit', designForm: 'Design this form', leave: 'What you typed is not saved. Leave it?', dismiss: 'Dismiss',
    formChanged: 'This form was changed just now (release {0}).', formChangedTyped: 'This form was changed just now (release {0}). Everything you typed is still here.', formRights: 'What you may see and change here is different from now on.', formBarred: 'You may no longer change {0}. What you typed there is still here and is not saved.',
    recent: 'Lately opened', recentNone: 'What you open shows here.', found: 'Found', foundNone: 'Nothing is named like that.', design: 'Design', layouts: 'Layouts', application: 'Application', releases: 'Releases', signOut: 'Sign out', mainMenu: 'Main', skip: 'To the content', mayNotMake: 'Your roles do not let you make records here.',
    bothChanged: '{0} changed this while you did', bothExplain: 'Nothing is lost. Where both of you changed a value, choose which is to be saved; everything else is put together.', mine: 'Mine', theirs: 'Theirs', takeOver: 'Save it so', before: 'Before', emptyValue: 'nothing',
    draftFound: 'What you typed here on {0} was not saved.', draftTake: 'Take it up again', draftDrop: 'Throw it away', remove: 'Delete', removeAsk: 'Delete {0}? It can be brought back.', removed: '{0} is deleted.', bringBack: 'Bring it back', opened: 'Opened beside', close: 'Close',
    history: 'History', historyNone: 'Nothing has happened yet.', made: 'made it', changed: 'changed', deleted: 'deleted it', restored: 'brought it back', comments: 'Comments', comment: 'Write a comment; @ names somebody', say: 'Say it', commentsNone: 'Nobody has said anything yet.', toldYou: 'You are mentioned',
    selectAll: 'Select all that are shown', selectOne: 'Select {0}', selected: '{0} selected', selectNone: 'Select none', bulkChange: 'Change {0} records', bulkSave: 'Change all of them', bulkAbout: 'What you enter is given to every one of them; what you leave alone stays as each has it. All are changed or none.', bulkEmpty: 'Empty in all of them', bulkNothing: 'Enter something, or choose what is to be emptied.',
    print: 'Print', takeIn: 'Take in a table', takeOut: 'As a table (CSV)', takeAll: 'Take all in', takeFile: 'A table in CSV', takeAbout: 'A table in CSV whose first line names its columns. Say which column is which field; see what would happen; then all lines are taken or none.', takeRight: 'All lines are right: {0} to make, {1} to change.', takeWrong: 'Nothing can be taken yet: {0} places need attention.', takeColumn: 'Column', takeExamples: 'What is in it', takeField: 'Field', takeGoes: 'Field for {0}', takeSkip: 'Leave it out', takeNumber: 'Number of the record', takeNameless: 'Column {0}', takeMatch: 'Which lines change a record', takeMatchBy: 'Those whose {0} there is already', takeMatchNone: 'None: every line makes one', takePoint: 'Numbers are written', takeDays: 'Days are written', takeMissing: 'No column goes to {0}, which every record must have.', takeForeign: 'This table is not in UTF-8. It was read as Windows-1252; look whether accents came out right.', line: 'Line {0}:', lineMany: 'Lines {0}:', beWhoever: 'This is a demonstration: be whoever you like.', token: 'Personal token', signIn: 'Sign in', notFetched: 'This part could not be fetched.', loadAgain: 'Load the page again',
  },
  nl: {
    search: 'Zoek in {0}', searchAll: 'Alles doorzoeken', make: 'Nieuw: {0}', nothingHas: 'Nergens staat “{0}”.', nothingFits: 'Niets past bij deze filters.', noneYet: 'Er zijn nog geen {0}.', count: '{0} stuks', countOne: '1 stuk', countMore: 'Meer dan {0} stuks',
    filters: 'Filteren', clearFilters: 'Filters wissen', from: '{0} vanaf', to: '{0} tot en met', any: 'Alle', views: 'Weergaven', saveView: 'Deze weergave bewaren', viewName: 'Naam van de weergave', removeView: 'Weergave {0} verwijderen', loading: 'Laden…',
    backToList: 'Terug naar de lijst', notSaved: 'Nog niet opgeslagen', cancel: 'Annuleren', save: 'Opslaan', saveClose: 'Opslaan en sluiten', saved: 'Opgeslagen.', edit: 'Bewerken', designForm: 'Formulier ontwerpen', leave: 'Wat u typte is niet opgeslagen. Toch weggaan?', dismiss: 'Sluiten',
    formChanged: 'Dit formulier is zojuist veranderd (uitgave {0}).', formChangedTyped: 'Dit formulier is zojuist veranderd (uitgave {0}). Alles wat u typte staat er nog.', formRights: 'Wat u hier mag zien en wijzigen is vanaf nu anders.', formBarred: 'U mag {0} niet meer wijzigen. Wat u daar typte staat er nog en wordt niet opgeslagen.',
    recent: 'Laatst geopend', recentNone: 'Wat u opent komt hier te staan.', found: 'Gevonden', foundNone: 'Niets heet zo.', design: 'Ontwerpen', layouts: 'Indelingen', application: 'Toepassing', releases: 'Uitgaven', signOut: 'Afmelden', mainMenu: 'Hoofdmenu', skip: 'Naar de inhoud', mayNotMake: 'Met uw rollen kunt u hier niets nieuws maken.',
    bothChanged: '{0} heeft dit intussen ook gewijzigd', bothExplain: 'Er is niets verloren. Waar u beiden een waarde wijzigde, kiest u welke wordt opgeslagen; al het andere wordt samengevoegd.', mine: 'Van mij', theirs: 'Van de ander', takeOver: 'Zo opslaan', before: 'Eerst', emptyValue: 'niets',
    draftFound: 'Wat u hier op {0} typte is niet opgeslagen.', draftTake: 'Weer opnemen', draftDrop: 'Weggooien', remove: 'Verwijderen', removeAsk: '{0} verwijderen? Terughalen kan.', removed: '{0} is verwijderd.', bringBack: 'Terughalen', opened: 'Ernaast geopend', close: 'Dicht',
    history: 'Geschiedenis', historyNone: 'Er is nog niets gebeurd.', made: 'maakte dit', changed: 'wijzigde', deleted: 'verwijderde dit', restored: 'haalde dit terug', comments: 'Opmerkingen', comment: 'Schrijf een opmerking; @ noemt iemand', say: 'Plaatsen', commentsNone: 'Nog niemand heeft iets gezegd.', toldYou: 'U wordt genoemd',
    selectAll: 'Alles wat te zien is kiezen', selectOne: '{0} kiezen', selected: '{0} gekozen', selectNone: 'Niets kiezen', bulkChange: '{0} stuks wijzigen', bulkSave: 'Allemaal wijzigen', bulkAbout: 'Wat u invult krijgen ze allemaal; wat u leeg laat blijft zoals het is. Alles wordt gewijzigd of niets.', bulkEmpty: 'Bij allemaal leegmaken', bulkNothing: 'Vul iets in, of kies wat leeg moet worden.',
    print: 'Afdrukken', takeIn: 'Tabel inlezen', takeOut: 'Als tabel (CSV)', takeAll: 'Alles inlezen', takeFile: 'Een tabel in CSV', takeAbout: 'Een tabel in CSV waarvan de eerste regel de kolommen noemt. Zeg welke kolom welk veld is; bekijk wat er zou gebeuren; dan worden alle regels ingelezen of geen.', takeRight: 'Alle regels kloppen: {0} te maken, {1} te wijzigen.', takeWrong: 'Er kan nog niets worden ingelezen: {0} plaatsen vragen aandacht.', takeColumn: 'Kolom', takeExamples: 'Wat erin staat', takeField: 'Veld', takeGoes: 'Veld voor {0}', takeSkip: 'Weglaten', takeNumber: 'Nummer van het stuk', takeNameless: 'Kolom {0}', takeMatch: 'Welke regels iets wijzigen', takeMatchBy: 'Die waarvan {0} al bestaat', takeMatchNone: 'Geen: elke regel maakt iets nieuws', takePoint: 'Getallen staan er als', takeDays: 'Dagen staan er als', takeMissing: 'Geen kolom gaat naar {0}, en dat moet overal ingevuld zijn.', takeForeign: 'Deze tabel is geen UTF-8. Ze is gelezen als Windows-1252; kijk of letters met accenten kloppen.', line: 'Regel {0}:', lineMany: 'Regels {0}:', beWhoever: 'Dit is een demonstratie: wees wie u wilt.', token: 'Persoonlijke sleutel', signIn: 'Aanmelden', notFetched: 'Dit deel kon niet worden opgehaald.', loadAgain: 'De pagina opnieuw laden',
  },
  ar: {
    search: 'ابحث في {0}', searchAll: 'ابحث في كل شيء', make: '{0}: جديد', nothingHas: 'لا شيء يحتوي على «{0}».', nothingFits: 'لا شيء يطابق هذه المرشحات.', noneYet: 'لا يوجد {0} بعد.', count: 'عدد السجلات: {0}', countOne: 'سجل واحد', countMore: 'عدد السجلات أكثر من {0}',
    filters: 'تصفية', clearFilters: 'مسح المرشحات', from: '{0} من', to: '{0} إلى', any: 'الكل', views: 'طرق العرض', saveView: 'احفظ طريقة العرض', viewName: 'اسم طريقة العرض', removeView: 'أزل طريقة العرض {0}', loading: 'جارٍ التحميل…',
    backToList: 'عودة إلى القائمة', notSaved: 'لم يُحفظ بعد', cancel: 'إلغاء', save: 'حفظ', saveClose: 'حفظ وإغلاق', saved: 'تم الحفظ.', edit: 'تعديل', designForm: 'صمّم هذا النموذج', leave: 'ما كتبته لم يُحفظ. هل تغادر؟', dismiss: 'إخفاء',
    formChanged: 'تغيّر هذا النموذج الآن (الإصدار {0}).', formChangedTyped: 'تغيّر هذا النموذج الآن (الإصدار {0}). كل ما كتبته ما زال هنا.', formRights: 'تغيّر من الآن ما يحق لك رؤيته وتغييره هنا.', formBarred: 'لم يعد بإمكانك تغيير {0}. ما كتبته هناك ما زال هنا ولا يُحفظ.',
    recent: 'فُتح مؤخرًا', recentNone: 'ما تفتحه يظهر هنا.', found: 'النتائج', foundNone: 'لا شيء بهذا الاسم.', design: 'التصميم', layouts: 'التخطيطات', application: 'التطبيق', releases: 'الإصدارات', signOut: 'خروج', mainMenu: 'القائمة الرئيسية', skip: 'إلى المحتوى', mayNotMake: 'أدوارك لا تسمح لك بإنشاء سجلات هنا.',
    bothChanged: 'غيّر {0} هذا في أثناء تعديلك', bothExplain: 'لم يضع شيء. حيث غيّرتما القيمة نفسها اختر ما يُحفظ؛ وما عدا ذلك يُجمع.', mine: 'قيمتي', theirs: 'قيمة الآخر', takeOver: 'احفظه هكذا', before: 'قبل', emptyValue: 'لا شيء',
    draftFound: 'ما كتبته هنا في {0} لم يُحفظ.', draftTake: 'تابع به', draftDrop: 'تخلص منه', remove: 'حذف', removeAsk: 'حذف {0}؟ يمكن استرجاعه.', removed: 'حُذف {0}.', bringBack: 'استرجاع', opened: 'مفتوح بجانبه', close: 'إغلاق',
    history: 'السجل', historyNone: 'لم يحدث شيء بعد.', made: 'أنشأه', changed: 'غيّر', deleted: 'حذفه', restored: 'استرجعه', comments: 'تعليقات', comment: 'اكتب تعليقًا؛ @ تذكر شخصًا', say: 'أرسل', commentsNone: 'لم يقل أحد شيئًا بعد.', toldYou: 'ذُكرت هنا',
    selectAll: 'اختر كل المعروض', selectOne: 'اختر {0}', selected: 'المختار: {0}', selectNone: 'لا تختر شيئًا', bulkChange: 'تغيير السجلات: {0}', bulkSave: 'غيّرها كلها', bulkAbout: 'ما تدخله يُعطى لكل منها؛ وما تتركه يبقى كما هو في كل سجل. تتغير كلها أو لا شيء.', bulkEmpty: 'أفرغ في كلها', bulkNothing: 'أدخل شيئًا أو اختر ما يُفرغ.',
    print: 'طباعة', takeIn: 'أدخل جدولًا', takeOut: 'كجدول (CSV)', takeAll: 'أدخل الكل', takeFile: 'جدول بصيغة CSV', takeAbout: 'جدول بصيغة CSV يسمي سطره الأول الأعمدة. حدّد الحقل الذي يذهب إليه كل عمود، وانظر ما سيحدث، ثم تُؤخذ كل الأسطر أو لا شيء.', takeRight: 'كل الأسطر صحيحة: {0} للإنشاء و{1} للتغيير.', takeWrong: 'لا يمكن إدخال شيء بعد: {0} مواضع تحتاج إلى انتباه.', takeColumn: 'العمود', takeExamples: 'ما فيه', takeField: 'الحقل', takeGoes: 'الحقل للعمود {0}', takeSkip: 'اتركه', takeNumber: 'رقم السجل', takeNameless: 'العمود {0}', takeMatch: 'أي الأسطر تغيّر سجلًا', takeMatchBy: 'ما كانت قيمة {0} فيه موجودة من قبل', takeMatchNone: 'لا شيء: كل سطر ينشئ سجلًا', takePoint: 'الأرقام مكتوبة هكذا', takeDays: 'الأيام مكتوبة هكذا', takeMissing: 'لا عمود يذهب إلى {0}، وهو واجب في كل سجل.', takeForeign: 'هذا الجدول ليس بترميز UTF-8. قُرئ بترميز Windows-1252؛ تحقق من الحروف المشكّلة.', line: 'السطر {0}:', lineMany: 'الأسطر {0}:', beWhoever: 'هذا عرض تجريبي: كن من شئت.', token: 'الرمز الشخصي', signIn: 'دخول', notFetched: 'تعذّر جلب هذا الجزء.', loadAgain: 'حمّل الصفحة من جديد',
  },
} as const;

export type Word = keyof (typeof tables)['en'];

export type Say = (word: Word, ...values: (string | number)[]) => string;

/** All tables, for the test that holds them against each other. */
export const allWords: Record<string, Record<string, string>> = tables;

const made = new Map<string, Say>();

/** The words in a language; the same function each time. */
export function sayIn(language: string): Say {
  let say = made.get(language);
  if (!say) {
    const table = tables[language.split('-')[0] as keyof typeof tables] ?? tables.en;
    say = (word, ...values) => table[word].replace(/\{(\d)\}/g, (_, i: string) => String(values[Number(i)] ?? ''));
    made.set(language, say);
  }
  return say;
}

/** The words in the language of whoever works here. */
export const words = (): Say => sayIn(session().language);
