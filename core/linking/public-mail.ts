/** Mail domains that anybody can have an address at: the same one says nothing about who works together. */
export const PUBLIC_MAIL_DOMAINS: ReadonlySet<string> = new Set([
  'gmail.com', 'googlemail.com', 'outlook.com', 'outlook.pt', 'outlook.de', 'outlook.fr', 'hotmail.com', 'hotmail.co.uk', 'hotmail.de', 'hotmail.fr', 'hotmail.es', 'hotmail.it', 'live.com', 'live.co.uk', 'live.fr', 'live.nl', 'msn.com',
  'yahoo.com', 'yahoo.co.uk', 'yahoo.de', 'yahoo.fr', 'yahoo.es', 'yahoo.it', 'yahoo.ca', 'yahoo.ie', 'yahoo.co.nz', 'yahoo.com.br', 'ymail.com', 'rocketmail.com', 'aol.com', 'aim.com', 'icloud.com', 'me.com', 'mac.com',
  'proton.me', 'protonmail.com', 'pm.me', 'tutanota.com', 'tuta.io', 'fastmail.com', 'fastmail.fm', 'hey.com', 'mail.com', 'email.com', 'inbox.com', 'hushmail.com', 'gmx.com', 'gmx.de', 'gmx.net', 'gmx.at', 'gmx.ch', 'web.de', 'freenet.de', 't-online.de', 'arcor.de', 'posteo.de', 'mailbox.org',
  'orange.fr', 'wanadoo.fr', 'free.fr', 'laposte.net', 'sfr.fr', 'neuf.fr', 'bbox.fr', 'libero.it', 'virgilio.it', 'tiscali.it', 'alice.it', 'tin.it', 'telefonica.net', 'terra.es',
  'sapo.pt', 'clix.pt', 'netcabo.pt', 'mail.pt', 'iol.pt', 'wp.pl', 'o2.pl', 'onet.pl', 'onet.eu', 'interia.pl', 'interia.eu', 'gazeta.pl', 'op.pl', 'poczta.onet.pl', 'tlen.pl',
  'btinternet.com', 'virginmedia.com', 'sky.com', 'talktalk.net', 'ntlworld.com', 'blueyonder.co.uk', 'eircom.net', 'indigo.ie', 'iol.ie', 'ziggo.nl', 'kpnmail.nl', 'planet.nl', 'xs4all.nl', 'home.nl', 'telenet.be', 'skynet.be', 'proximus.be', 'bluewin.ch', 'seznam.cz', 'centrum.cz',
  'comcast.net', 'verizon.net', 'att.net', 'sbcglobal.net', 'bellsouth.net', 'cox.net', 'charter.net', 'earthlink.net', 'juno.com', 'rogers.com', 'bell.net', 'sympatico.ca', 'shaw.ca', 'telus.net', 'videotron.ca', 'xtra.co.nz', 'slingshot.co.nz', 'bigpond.com', 'optusnet.com.au',
  'uol.com.br', 'bol.com.br', 'terra.com.br', 'ig.com.br', 'qq.com', '163.com', '126.com', 'sina.com', 'naver.com', 'daum.net', 'hanmail.net', 'rediffmail.com', 'mail.ru', 'yandex.com', 'yandex.ru', 'bk.ru', 'list.ru', 'inbox.lv', 'ukr.net', 'abv.bg', 'walla.co.il',
])
